/** `node:fs` with paths of Windows. */
import fs from 'node:fs';
import { wrapped } from './wrap.mjs';

const own = { ...wrapped(fs), promises: wrapped(fs.promises) };
export default own;
