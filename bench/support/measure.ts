/** Compares a piece of work with its bare equivalent, in turns, so that a busy machine slows both. */
import { measure } from 'mitata';

export interface Comparison {
  name: string;
  /** What the work may cost: its median over that of the bare equivalent. */
  goal: number;
  work: () => unknown;
  bare: () => unknown;
}

export interface Result {
  name: string;
  goal: number;
  /** Medians of all rounds, in microseconds. */
  work: number;
  bare: number;
  ratio: number;
}

const rounds = 7;

/** Both sides run this long before anything counts, in milliseconds: functions are compiled to machine code meanwhile. */
const warmUp = 1500;

/** Measures both in turns and compares the medians. */
export async function compare({ name, goal, work, bare }: Comparison): Promise<Result> {
  await runFor(warmUp, work);
  await runFor(warmUp, bare);
  const works: number[] = [];
  const bares: number[] = [];
  for (let round = 0; round < rounds; round++) {
    works.push((await measure(work, { min_cpu_time: 150e6 })).p50 / 1000);
    bares.push((await measure(bare, { min_cpu_time: 150e6 })).p50 / 1000);
  }
  const [workMedian, bareMedian] = [median(works), median(bares)];
  return { name, goal, work: workMedian, bare: bareMedian, ratio: workMedian / bareMedian };
}

async function runFor(milliseconds: number, work: () => unknown): Promise<void> {
  for (const end = performance.now() + milliseconds; performance.now() < end; ) await work();
}

/** One line of the table, with a mark where the goal is missed. */
export function row({ name, goal, work, bare, ratio }: Result): string {
  const cells = [name.padEnd(36), `${work.toFixed(1)} µs`.padStart(12), `${bare.toFixed(1)} µs`.padStart(12)];
  return [...cells, ratio.toFixed(2).padStart(7), goal.toFixed(2).padStart(6), ratio <= goal ? '' : '  missed'].join(
    ' ',
  );
}

export const heading = `${'what'.padEnd(36)} ${'ours'.padStart(12)} ${'beside'.padStart(12)} ${'ratio'.padStart(7)} ${'goal'.padStart(6)}`;

/** The middle one of some figures. */
export function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)]!;
}
