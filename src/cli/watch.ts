/** Looks again whenever a file changes that decides what is wrong. */
import { isScript } from '../checking/index.ts';
import { LoomError } from '../diagnostics/index.ts';
import { foldersOf, isPassedOver, type NodeLoomOptions, type Project, pathOf } from '../node/index.ts';
import { failureText } from './report.ts';
import { assetFolderOf } from './served-files.ts';

/** Files are looked at so long after a change, in milliseconds: an editor writes some of them in several steps. */
const pause = 50;

/**
 * Looks now and after each change, one look after another, until the process is ended.
 * @param scripts whether the project’s own scripts are watched too, for the types that templates have from them
 * @param look says why where it cannot; a folder that is gone may come back
 * @throws what the first look throws, but for what TypeScript stumbles over: somebody is at work on it
 */
export async function watchProject(
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
      if (text !== told) console.error(text);
      told = text;
    }
  };
  try {
    await look();
  } catch (error) {
    if (!(error instanceof LoomError) || error.code !== 'stopped-compiler') throw error;
    told = failureText(error);
    console.error(told);
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
  watch(watchedPaths(options), { ignoreInitial: true }).on('all', lookSoon).on('ready', lookSoon);
  if (scripts)
    watch(folder, {
      ignoreInitial: true,
      ignored: (path, stats) =>
        path !== folder &&
        (stats?.isFile() ? !isScript(path) && !/tsconfig[^/\\]*\.json$/.test(path) : isPassedOver(path)),
    }).on('all', lookSoon);
}

/** Folders whose files decide what is wrong with templates. */
function watchedPaths({ templates, assets }: NodeLoomOptions): string[] {
  const { folder, manifest } = assetFolderOf(assets);
  const places = [templates, manifest].filter((place) => place !== undefined);
  return [...places.map(pathOf), ...(folder === undefined ? [] : foldersOf({ folder }))];
}
