/** Functions for files that take paths of Windows and give such. */
import { toReal, toWindows } from './paths.mjs';

/** Their second argument is a path, too. */
const takesTwo = /^(?:rename|copyFile|cp|link|symlink)(?:Sync)?$/;
const givesPath = new Set(['realpath', 'realpathSync', 'mkdtemp', 'mkdtempSync']);

export function wrapped(functions) {
  const own = { ...functions };
  for (const [name, call] of Object.entries(functions)) {
    if (typeof call !== 'function' || /^[A-Z_]/.test(name)) continue;
    own[name] = (...args) => {
      const count = takesTwo.test(name) ? 2 : 1;
      const result = call(...args.map((one, at) => (at < count ? toReal(one) : one)));
      const shown = /^readdir/.test(name) ? withWindowsNames : givesPath.has(name) ? toWindows : undefined;
      if (shown === undefined) return result;
      return result instanceof Promise ? result.then(shown) : shown(result);
    };
  }
  return own;
}

function withWindowsNames(entries) {
  return entries.map((entry) => {
    if (typeof entry === 'string') return entry.replaceAll('/', '\\');
    entry.parentPath = toWindows(entry.parentPath);
    return entry;
  });
}
