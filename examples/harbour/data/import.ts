/** Boats from a file of comma-separated values (RFC 4180): checked line by line, taken in batches. */
import { setTimeout as pause } from 'node:timers/promises';
import { parse } from 'csv-parse/sync';
import { z } from 'zod';
import type { Database } from './database.ts';
import { createRandom } from './random.ts';
import { boats } from './schema.ts';
import { seedRows } from './seed.ts';

/**
 * A line that was not taken, and why.
 * @public
 */
export interface RefusedLine {
  line: number;
  name: string;
  reason: string;
}

/** How far an import has come. */
export interface ImportReport {
  /** Lines in the file, without the first. */
  total: number;
  taken: number;
  refused: RefusedLine[];
}

const columns = ['name', 'kind', 'length', 'home port', 'skipper'];

const rowOfFile = z.object({
  name: z.string().min(2, 'A name has at least two letters.').max(40, 'The name is too long.'),
  kind: z.enum(['sail', 'motor', 'rowing'], 'The kind is none of sail, motor and rowing.'),
  length: z.coerce
    .number('The length is no number.')
    .min(2, 'A boat is at least 2 m long.')
    .max(60, 'A boat is at most 60 m long.'),
  'home port': z.string().min(2, 'The home port is missing.'),
  skipper: z.string().min(2, 'The skipper is missing.'),
});

interface ParsedLine {
  record: Record<string, string>;
  info: { lines: number };
}

/** So many lines are taken at a time. */
const batch = 100;

/**
 * Takes the boats of a file, and tells after each batch how far it has come.
 * @param delay milliseconds that a batch takes besides
 * @throws {Error} for a file that is none: nothing of it is taken then
 */
export async function* importBoats(database: Database, text: string, delay: number): AsyncGenerator<ImportReport> {
  const lines = parse(text, {
    columns: (head: string[]) => head.map((name) => name.trim().toLowerCase()),
    info: true,
    bom: true,
    relax_column_count: true,
    skip_empty_lines: true,
    trim: true,
  }) as unknown as ParsedLine[];
  const report: ImportReport = { total: lines.length, taken: 0, refused: [] };
  yield report;
  for (let at = 0; at < lines.length; at += batch) {
    const rows: Array<typeof boats.$inferInsert> = [];
    for (const { record, info } of lines.slice(at, at + batch)) {
      const { data, error } = rowOfFile.safeParse(record);
      if (data)
        rows.push({
          name: data.name,
          kind: data.kind,
          length: data.length,
          homePort: data['home port'],
          skipper: data.skipper,
        });
      else report.refused.push({ line: info.lines, name: record['name'] ?? '', reason: error.issues[0]!.message });
    }
    if (rows.length > 0) await database.insert(boats).values(rows);
    report.taken += rows.length;
    await pause(delay);
    yield report;
  }
}

/** A file to try it with: 2,000 made-up boats, some of which no harbour would take. */
export function sampleFile(): string {
  const random = createRandom(2000);
  const known = seedRows().boats;
  const lines = Array.from({ length: 2000 }, (_, at) => {
    const { homePort, skipper } = random.pick(known);
    const name = random.chance(0.005) ? '' : `${random.pick(known).name} ${at + 2}`;
    const kind = random.chance(0.005) ? 'raft' : random.pick(['sail', 'motor', 'rowing']);
    const length = random.chance(0.005) ? 'long' : String(random.between(20, 180) / 10);
    return [name, kind, length, homePort, skipper].join(',');
  });
  return `${[columns.join(','), ...lines].join('\n')}\n`;
}
