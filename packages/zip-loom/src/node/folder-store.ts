/** Templates in a folder, read again when a file has changed. */
import { readdirSync, readFileSync, type Stats, statSync } from 'node:fs';
import { join } from 'node:path';
import { LoomError } from '../diagnostics/index.ts';
import type { TemplateStore } from '../loom/index.ts';
import { nodeDiagnostic, reasonOf } from './diagnostics.ts';
import { shownPath, urlPath } from './module-paths.ts';

interface StoredFile {
  source: string;
  /** As messages name it. */
  file: string;
  /** Where it is. */
  path: string;
  version: string;
}

/** What was found when the folder was looked through. */
interface Look {
  files: ReadonlyMap<string, StoredFile>;
  /** Path of a folder → version, which tells of files that came and went. */
  folders: ReadonlyMap<string, string>;
}

/**
 * All `.html` files below a folder. Each `read` looks at the files’ times; a changed file is there at the next page.
 * @throws {LoomError} when the folder cannot be read
 */
export function folderStore(folder: string): TemplateStore {
  let last: Look = { files: new Map(), folders: new Map() };
  return {
    read() {
      last = lookThrough(folder, last);
      return last.files;
    },
    isCurrent(paths) {
      for (const [path, version] of last.folders) if (!isStill(path, version)) return false;
      for (const path of paths) {
        const known = last.files.get(path);
        // Templates of the library are in no folder.
        if (known && !isStill(known.path, known.version)) return false;
      }
      return true;
    },
  };
}

function lookThrough(root: string, before: Look): Look {
  const files = new Map<string, StoredFile>();
  const folders = new Map<string, string>();
  let changed = false;
  const shownRoot = shownName(root);
  const look = (folder: string, key: string): void => {
    folders.set(folder, versionAt(folder) ?? '');
    for (const entry of entriesOf(folder, root)) {
      if (entry.name.startsWith('.')) continue;
      const path = join(folder, entry.name);
      const inner = key === '' ? entry.name : `${key}/${entry.name}`;
      if (entry.isDirectory()) look(path, inner);
      else if (entry.name.endsWith('.html')) {
        const known = before.files.get(inner);
        const version = versionAt(path) ?? '';
        const isKnown = known !== undefined && isTelling(version) && known.version === version;
        changed ||= !isKnown;
        files.set(inner, isKnown ? known : { ...readTemplate(path), file: `${shownRoot}${inner}`, path, version });
      }
    }
  };
  look(root, '');
  // The same map as before tells that nothing has changed.
  return { files: changed || files.size !== before.files.size ? files : before.files, folders };
}

function readTemplate(path: string): { source: string } {
  return { source: readFileSync(path, 'utf8').replace(/^\ufeff/, '') };
}

/** File systems tell times in steps of up to so many milliseconds: what is younger may change without another time. */
const coarsest = 20;

/** Size and time of the last change; empty for what may still change unseen, `undefined` for what is not there. */
function versionAt(path: string): string | undefined {
  let found: Stats | undefined;
  try {
    found = statSync(path, { throwIfNoEntry: false });
  } catch {
    return undefined;
  }
  if (!found) return undefined;
  return Date.now() - found.mtimeMs < coarsest ? '' : `${found.size} ${found.mtimeMs}`;
}

/** Whether something is as it was, as far as its time tells. */
function isStill(path: string, version: string): boolean {
  return isTelling(version) && versionAt(path) === version;
}

function isTelling(version: string): boolean {
  return version !== '';
}

function entriesOf(folder: string, root: string) {
  try {
    return readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
  } catch (error) {
    throw new LoomError(nodeDiagnostic('unreadable-templates', { folder: root, reason: reasonOf(error) }), error);
  }
}

/** What files are named with in messages. */
function shownName(folder: string): string {
  const shown = shownPath(folder);
  if (shown === '.') return '';
  return `${shown.startsWith('..') ? urlPath(folder) : shown}/`;
}
