/** `zip-loom/built`: templates that `zip-loom build` has made, without the compiler: for browsers above all. */
export {
  type BuiltLoomOptions,
  createBuiltLoom,
  type Exchange,
  type Logger,
  type Loom,
  LoomError,
  type RenderOptions,
  type RespondOptions,
  type StreamOptions,
} from './loom/index.ts';
export { type BuiltTemplates, type LoomContext, trustedHTML, trustedURL } from './runtime/index.ts';
