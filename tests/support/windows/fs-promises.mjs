/** `node:fs/promises` with paths of Windows. */
import files from 'node:fs/promises';
import { wrapped } from './wrap.mjs';

const own = wrapped(files);
export default own;
