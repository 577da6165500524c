/** Sample data of templates: `list.samples.json` or `list.samples.ts` beside `list.html`, an object of named samples. */
import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { LoomError, messageOf } from '../diagnostics/index.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { filesBelow } from './files-below.ts';
import { urlPath } from './module-paths.ts';

/** Data by name, in the order of the file. */
export type Samples = ReadonlyMap<string, object>;

const ending = /\.samples\.(?:json|[cm]?[jt]s)$/;

/**
 * All samples below a folder of templates, by the template’s path in it without its ending: `pages/berths/list`.
 * @throws {LoomError} for a file that cannot be read or holds something else, or that stands beside no template
 */
export async function readSamples(templates: string): Promise<Map<string, Samples>> {
  const found = new Map<string, Samples>();
  for (const file of filesBelow(templates)) {
    if (!ending.test(file)) continue;
    const path = file.replace(ending, '');
    if (!existsSync(`${path}.html`)) throw wrong(file, `${basename(path)}.html is not beside it`);
    found.set(urlPath(relative(templates, path)), samplesIn(file, await load(file)));
  }
  return found;
}

async function load(file: string): Promise<unknown> {
  try {
    if (file.endsWith('.json')) return JSON.parse(readFileSync(file, 'utf8'));
    const { createJiti } = await import('jiti');
    const module = await createJiti(pathToFileURL(join(dirname(file), 'samples')).href, { moduleCache: false }).import(
      file,
    );
    return (module as { samples?: unknown }).samples;
  } catch (error) {
    throw wrong(file, messageOf(error), error);
  }
}

function samplesIn(file: string, given: unknown): Samples {
  if (!isRecord(given)) throw wrong(file, 'it gives no object of samples');
  const entries = Object.entries(given).map(([name, data]): [string, object] => {
    if (!isRecord(data)) throw wrong(file, `the sample “${name}” is no object of names and values`);
    return [name, data];
  });
  if (entries.length === 0) throw wrong(file, 'it has no sample');
  return new Map(entries);
}

function isRecord(given: unknown): given is Record<string, unknown> {
  return typeof given === 'object' && given !== null && !Array.isArray(given);
}

function wrong(file: string, reason: string, cause?: unknown): LoomError {
  return new LoomError(nodeDiagnostic('invalid-samples', { file: relative(process.cwd(), file), reason }), cause);
}
