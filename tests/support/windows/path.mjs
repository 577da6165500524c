/** `node:path` as under Windows. */
import path from 'node:path';
import { toWindows } from './paths.mjs';

const { win32 } = path;
const resolve = (...parts) => win32.resolve(toWindows(process.cwd()), ...parts);
const own = {
  ...win32,
  resolve,
  relative: (from, to) => win32.relative(resolve(from), resolve(to)),
  posix: path.posix,
};
export default own;
