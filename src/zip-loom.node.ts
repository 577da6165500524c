/** `zip-loom/node`: what Node servers need besides: a listener for `http`, an orderly end, the type of a configuration file. */
export {
  answer,
  type ClosingOptions,
  closeOnSignals,
  defineConfiguration,
  type Handler,
  nodeListener,
} from './node/index.ts';
