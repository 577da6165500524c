/** Takes problems of one file, up to a limit: somebody who reads them needs no more, and looking for more can take long. */
import type { Problem, Report } from './problem.ts';

/** So many problems of one file are reported by one pass. */
export const mostProblems = 100;

/** Raised by a report that is full, and caught by the pass that was given it. */
export class TooManyProblems extends Error {}

/** @throws {TooManyProblems} from the report, once there are enough */
export function limitedReport(problems: Problem[], file: string): Report {
  return (span, complaint) => {
    if (problems.length >= mostProblems) throw new TooManyProblems();
    problems.push({ ...complaint, file, span });
  };
}
