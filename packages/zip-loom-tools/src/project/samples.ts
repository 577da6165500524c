/** Sample data of templates: `list.samples.json` or `list.samples.ts` beside `list.html`, an object of named samples. */
import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createJiti } from 'jiti';
import { LoomError, messageOf } from 'zip-loom/internal/diagnostics';
import { filesBelow, shownPath, urlPath } from 'zip-loom/internal/node';
import { commandDiagnostic } from '../console/index.ts';

/** Data by name, in the order of the file. */
export type Samples = ReadonlyMap<string, object>;

/** The end of the name of a file with samples. */
export const samplesEnding = /\.samples\.(?:json|[cm]?[jt]s)$/;

/**
 * All samples below a folder of templates, by the template’s path in it without its ending: `pages/berths/list`.
 * @throws {LoomError} for a file that cannot be read or holds something else, or that stands beside no template
 */
export async function readSamples(templates: string): Promise<Map<string, Samples>> {
  const files = filesBelow(templates).filter((file) => samplesEnding.test(file));
  const lost = files.find((file) => !existsSync(`${file.replace(samplesEnding, '')}.html`));
  if (lost !== undefined) throw wrong(lost, `${basename(lost.replace(samplesEnding, ''))}.html is not beside it`);
  const modules = await loadModules(files.filter((file) => !file.endsWith('.json')));
  const pathOf = (file: string) => urlPath(relative(templates, file.replace(samplesEnding, '')));
  return new Map(files.map((file) => [pathOf(file), samplesIn(file, modules.get(file) ?? loadJSON(file))]));
}

function loadJSON(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw wrong(file, messageOf(error), error);
  }
}

/** All together, so that what several of them import runs once, and as it is now. */
async function loadModules(files: readonly string[]): Promise<Map<string, unknown>> {
  const [first] = files;
  if (first === undefined) return new Map();
  const from = join(dirname(first), 'samples.mjs');
  const load = async (some: readonly string[]) => {
    const exports = some.map((file, at) => `export * as file${at} from ${JSON.stringify(file)};`);
    const loader = createJiti(pathToFileURL(from).href, { moduleCache: false });
    return (await loader.evalModule(exports.join('\n'), {
      filename: from,
      async: true,
      forceTranspile: true,
    })) as Record<string, { samples?: unknown }>;
  };
  try {
    const modules = await load(files);
    return new Map(files.map((file, at) => [file, modules[`file${at}`]!.samples ?? null]));
  } catch (error) {
    // Which one was it?
    for (const file of files)
      await load([file]).catch((cause: unknown) => {
        throw wrong(file, messageOf(cause), cause);
      });
    throw error;
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
  return new LoomError(commandDiagnostic('invalid-samples', { file: shownPath(file), reason }), cause);
}
