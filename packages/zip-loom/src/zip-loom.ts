/** `zip-loom` wherever there is no file system: templates come from memory. */
export { createLoom, type LoomOptions } from './loom/index.ts';
export * from './zip-loom.everywhere.ts';
