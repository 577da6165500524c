/** A static site as files: written where nothing else is, and brought up to date where it was written before. */
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { commandDiagnostic } from '../../console/index.ts';

/** By its path below the folder: its text, or the file that it is a copy of. */
export type SiteFiles = ReadonlyMap<string, { text: string } | { copyOf: string }>;

/** Tells what was written, so that the next run may replace and remove it. */
const recordFile = '.zip-loom-site.json';

/**
 * @param isForced whether a folder with other files is written into
 * @throws {LoomError} for a folder that holds what no run has written
 */
export function assertSiteFolder(out: string, isForced: boolean): void {
  if (isForced || !existsSync(out) || readdirSync(out).length === 0 || existsSync(join(out, recordFile))) return;
  throw new LoomError(commandDiagnostic('refused-site', { folder: shownPath(out) }));
}

/**
 * Whoever ends it in between finds whole files, old or new.
 * @param isForced whether files that no run has written are replaced
 * @throws {LoomError} for such a file
 */
export function writeSite(out: string, files: SiteFiles, isForced: boolean): void {
  const before = recorded(out);
  if (!isForced)
    for (const path of files.keys())
      if (!before.has(path) && existsSync(join(out, path)))
        throw new LoomError(commandDiagnostic('existing-file', { file: shownPath(join(out, path)) }));
  mkdirSync(out, { recursive: true });
  // Named before it is there: a run that was ended is brought to its end by the next one.
  writeFileSync(join(out, recordFile), record([...new Set([...before, ...files.keys()])]));
  for (const [path, file] of files) {
    const target = join(out, path);
    mkdirSync(dirname(target), { recursive: true });
    const draft = `${target}.${process.pid}.part`;
    if ('text' in file) writeFileSync(draft, file.text);
    else copyFileSync(file.copyOf, draft);
    renameSync(draft, target);
  }
  for (const path of before) if (!files.has(path)) rmSync(join(out, path), { force: true });
  writeFileSync(join(out, recordFile), record([...files.keys()]));
}

function record(files: readonly string[]): string {
  return `${JSON.stringify({ files: [...files].sort() }, null, 2)}\n`;
}

function recorded(out: string): Set<string> {
  try {
    const { files } = JSON.parse(readFileSync(join(out, recordFile), 'utf8')) as { files?: unknown };
    const isBelow = (path: unknown): path is string => typeof path === 'string' && !path.split(/[\\/]/).includes('..');
    return new Set(Array.isArray(files) ? files.filter(isBelow) : []);
  } catch {
    return new Set();
  }
}
