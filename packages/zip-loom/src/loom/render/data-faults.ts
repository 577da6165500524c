/** Whether a template is given what it takes, and nothing else: a misspelt name would neither be missed nor found. */
import { type Diagnostic, nearest } from '../../diagnostics/index.ts';
import type { LoadedTemplate } from '../../kernel/index.ts';
import { loomDiagnostic } from '../diagnostics.ts';

/** What is wrong with the data, and the name that it is about. */
interface DataFault {
  diagnostic: Diagnostic;
  name: string;
}

const none: readonly DataFault[] = [];

/** What a template lacks, else what it does not take. */
export function dataFaults({ required, optional }: LoadedTemplate, page: string, data: object): readonly DataFault[] {
  const missing = required.filter((parameter) => !isGiven(data, parameter));
  if (missing.length > 0)
    return [
      {
        diagnostic: loomDiagnostic('missing-argument', { page, missing, given: Object.keys(data) }),
        name: missing[0]!,
      },
    ];
  if (optional === undefined || !isPlain(data)) return none;
  let faults: DataFault[] | undefined;
  for (const name in data) {
    if (required.includes(name) || optional.includes(name) || !Object.hasOwn(data, name)) continue;
    const takes = [...required, ...optional];
    faults ??= [];
    faults.push({
      diagnostic: loomDiagnostic('unknown-argument', { page, name, nearest: nearest(name, takes), takes }),
      name,
    });
  }
  return faults ?? none;
}

/** Whether data has a value of that name: its own, or of its class. What every object has is not given. */
function isGiven(data: object, name: string): boolean {
  return Object.hasOwn(data, name) || (name in data && !(name in Object.prototype));
}

/** Whether data is an object of names and values: what else an object of a class has is its own. */
function isPlain(data: object): boolean {
  const prototype: unknown = Object.getPrototypeOf(data);
  return prototype === Object.prototype || prototype === null;
}
