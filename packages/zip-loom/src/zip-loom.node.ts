/** `zip-loom/node`: what Node servers need besides: a listener for `http`, an orderly end, the type of a configuration file. */
export {
  type ClosingOptions,
  closeOnSignals,
  defineConfiguration,
  type EffectiveMethodOptions,
  effectiveMethodMiddleware,
  type Handler,
  type ListenerOptions,
  type Next,
  type NodeExchange,
  nodeExchange,
  nodeListener,
  respondTo,
  uploadFolder,
} from './node/index.ts';
