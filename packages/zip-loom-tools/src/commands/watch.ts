/** Looks again whenever a file changes that decides what is wrong. */

import { LoomError } from 'zip-loom/internal/diagnostics';
import { failureText, foldersOf, isPassedOver, type NodeLoomOptions, pathOf } from 'zip-loom/internal/node';
import { isScript } from '../checking/index.ts';
import type { Terminal } from '../console/index.ts';
import { assetFolderOf, type Project } from '../project/index.ts';

/** Files are looked at so long after a change, in milliseconds: an editor writes some of them in several steps. */
const pause = 50;

/**
 * Looks now and after each change, one look after another, until the command is ended.
 * @param scripts whether the project’s own scripts are watched too, for the types that templates have from them
 * @param look says why where it cannot; a folder that is gone may come back
 * @throws what the first look throws, but for what TypeScript stumbles over: somebody is at work on it
 */
export async function watchProject(
  terminal: Terminal,
  { folder, options }: Project,
  { scripts }: { scripts: boolean },
  look: () => Promise<void>,
): Promise<void> {
  let told = '';
  const lookAgain = async () => {
    try {
      await look();
      told = '';
    } catch (error) {
      const text = failureText(error);
      if (text !== told) terminal.tell(text);
      told = text;
    }
  };
  try {
    await look();
  } catch (error) {
    if (!(error instanceof LoomError) || error.code !== 'stopped-compiler') throw error;
    told = failureText(error);
    terminal.tell(told);
  }
  let timer: NodeJS.Timeout | undefined;
  let last = Promise.resolve();
  const lookSoon = () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      last = last.then(lookAgain);
    }, pause);
  };
  // Loaded for those who watch alone. What changed before the watching began is looked at when it has.
  const { watch } = await import('chokidar');
  const watchers = [watch(watchedPaths(options), { ignoreInitial: true }).on('all', lookSoon).on('ready', lookSoon)];
  const isLeftOut = (path: string, isFile: boolean | undefined) =>
    path !== folder && (isFile ? !isScript(path) && !/tsconfig[^/\\]*\.json$/.test(path) : isPassedOver(path));
  if (scripts)
    watchers.push(
      watch(folder, { ignoreInitial: true, ignored: (path, stats) => isLeftOut(path, stats?.isFile()) }).on(
        'all',
        lookSoon,
      ),
    );
  await terminal.untilEnded();
  clearTimeout(timer);
  await Promise.all([last, ...watchers.map((watcher) => watcher.close())]);
}

/** Folders whose files decide what is wrong with templates. */
function watchedPaths({ templates, assets }: NodeLoomOptions): string[] {
  const { folder, manifest } = assetFolderOf(assets);
  const places = [templates, manifest].filter((place) => place !== undefined);
  return [...places.map(pathOf), ...(folder === undefined ? [] : foldersOf({ folder }))];
}
