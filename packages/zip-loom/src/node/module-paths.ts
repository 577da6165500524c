/** Paths of files as modules and messages name them. */
import { AsyncLocalStorage } from 'node:async_hooks';
import { relative, resolve, sep } from 'node:path';

const folders = new AsyncLocalStorage<string>();

/** Does something as if the program had been started in a folder: paths are shown from there, and relative ones mean files below it. */
export function startedIn<Result>(folder: string, work: () => Result): Result {
  return folders.run(resolve(folder), work);
}

/** The folder where the program was started, or that of `startedIn`. */
export function startFolder(): string {
  return folders.getStore() ?? process.cwd();
}

/** With `/` between folders. */
export function urlPath(path: string): string {
  return path.split(sep).join('/');
}

/** A file as it is shown: from the folder where the program was started, with `/` between folders, so that terminals can open it. */
export function shownPath(path: string): string {
  return urlPath(relative(startFolder(), path)) || '.';
}

/** A file as a module in a folder names it. */
export function relativeModule(folder: string, file: string): string {
  const path = urlPath(relative(folder, file));
  return path.startsWith('.') ? path : `./${path}`;
}
