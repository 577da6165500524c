/** Answers `(req, res)` by what a handler of the Fetch standard gives. */
import type { PairAnswerer } from '../http/index.ts';
import { assertPairObjects } from './assert-pair.ts';
import { type NodeIncoming, nodeIncoming, type Outgoing } from './incoming.ts';
import { handle, nextOf, refuseURL } from './listener.ts';

/** Headers and cookies that were set before are kept. What goes wrong is given to the router’s `next`, or answered with 500. */
export const answerPair: PairAnswerer = (req, res, answer) => {
  assertPairObjects('connect', req, res);
  const outgoing = res as unknown as Outgoing;
  const incoming = nodeIncoming(req as unknown as NodeIncoming['req'], outgoing, { standardObjects: false });
  if (!incoming) {
    refuseURL(outgoing);
    return Promise.resolve();
  }
  return new Promise((resolve) => {
    handle(incoming, outgoing, nextOf(req), () => answer(incoming.request), resolve);
  });
};
