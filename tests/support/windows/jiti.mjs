/** The loader of configuration files, which is told where they are. */
import * as jiti from 'jiti';
import { toReal } from './paths.mjs';

const own = {
  createJiti: (...args) => {
    const made = jiti.createJiti(...args);
    return { ...made, import: (path, options) => made.import(toReal(path), options) };
  },
};
export default own;
