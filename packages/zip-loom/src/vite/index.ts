/** `zip-loom/vite`: templates as modules, built ahead with the rest of a project. */
export { type ZipLoomAPI, type ZipLoomOptions, zipLoom } from './plugin.ts';
