/** `zip-loom` under Node: as elsewhere, and `createLoom` also reads folders. */
export {
  type AssetFolder,
  type AssetsOption,
  createLoom,
  type NodeLoomOptions as LoomOptions,
} from './node/index.ts';
export * from './zip-loom.everywhere.ts';
