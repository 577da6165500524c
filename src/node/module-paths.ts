/** Paths of files as modules name them. */
import { relative, sep } from 'node:path';

/** With `/` between folders. */
export function urlPath(path: string): string {
  return path.split(sep).join('/');
}

/** A file as it is shown: from the folder where the program was started, with `/` between folders, so that terminals can open it. */
export function shownPath(path: string): string {
  return urlPath(relative(process.cwd(), path)) || '.';
}

/** A file as a module in a folder names it. */
export function relativeModule(folder: string, file: string): string {
  const path = urlPath(relative(folder, file));
  return path.startsWith('.') ? path : `./${path}`;
}
