/** `zip-loom/built`: templates that `zip-loom build` has made, without the compiler: for browsers above all. */

export { LoomError } from './diagnostics/index.ts';
export { type BuiltTemplates, type LoomContext, trustedHTML, trustedURL } from './kernel/index.ts';
export {
  type BuiltLoomOptions,
  createBuiltLoom,
  type Exchange,
  type Logger,
  type Loom,
  type RenderOptions,
  type RespondOptions,
  type SettledOptions,
  type StreamOptions,
} from './loom/index.ts';
