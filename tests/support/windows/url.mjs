/** `node:url`, with file URLs whose paths are of Windows. */
import url from 'node:url';
import { toReal, toWindows } from './paths.mjs';

const own = {
  ...url,
  fileURLToPath: (value) => toWindows(url.fileURLToPath(value)),
  // Modules are loaded from where they are.
  pathToFileURL: (value) => url.pathToFileURL(toReal(value)),
};
export default own;
