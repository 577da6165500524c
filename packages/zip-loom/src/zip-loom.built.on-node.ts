/** `zip-loom/built` under Node: as elsewhere, with Node’s own cryptography. */
export { type BuiltLoomOptionsOnNode as BuiltLoomOptions, createBuiltLoom } from './node/index.ts';
export * from './zip-loom.built.ts';
