/** Changes by name, and answers that hold them. A module of its own, loaded with the first of them. */
export { applyChanges } from './apply-changes.ts';
export { followChanges } from './change-stream.ts';
