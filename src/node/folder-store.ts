/** Templates in a folder, read again when a file has changed. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { LoomError } from '../diagnostics/index.ts';
import type { TemplateStore } from '../loom/index.ts';
import { nodeDiagnostic, reasonOf } from './diagnostics.ts';

interface StoredFile {
  source: string;
  file: string;
  /** Size and time of the last change, to tell whether it must be read again. */
  version: string;
}

/**
 * All `.html` files below a folder. Each `read` looks at the files’ times; a changed file is there at the next page.
 * @throws {LoomError} when the folder cannot be read
 */
export function folderStore(folder: string): TemplateStore {
  let files: ReadonlyMap<string, StoredFile> = new Map();
  return {
    read() {
      const next = new Map<string, StoredFile>();
      let changed = false;
      for (const path of htmlFiles(folder)) {
        const key = relative(folder, path).split(sep).join('/');
        const { size, mtimeMs } = statSync(path);
        const version = `${size} ${mtimeMs}`;
        const before = files.get(key);
        if (before?.version === version) next.set(key, before);
        else {
          next.set(key, { source: readFileSync(path, 'utf8').replace(/^\ufeff/, ''), file: shownName(path), version });
          changed = true;
        }
      }
      if (changed || next.size !== files.size) files = next;
      return files;
    },
  };
}

function htmlFiles(folder: string): string[] {
  let entries: ReturnType<typeof readEntries>;
  try {
    entries = readEntries(folder);
  } catch (error) {
    throw new LoomError(nodeDiagnostic('unreadable-templates', { folder, reason: reasonOf(error) }), error);
  }
  return entries.flatMap((entry) => {
    if (entry.name.startsWith('.')) return [];
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return htmlFiles(path);
    return entry.name.endsWith('.html') ? [path] : [];
  });
}

function readEntries(folder: string) {
  return readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** Files are named in messages as from the folder where the program was started, so that terminals can open them. */
function shownName(path: string): string {
  const shown = relative(process.cwd(), path);
  return shown.startsWith('..') ? path : shown.split(sep).join('/');
}
