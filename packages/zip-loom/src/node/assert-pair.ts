/** Tells what Node hands to its handlers from anything else. */
import { assertArgument, withMethods } from '../diagnostics/index.ts';

const loomKind = withMethods('what createLoom makes', 'respond', 'exchange');

/** @throws {LoomError} for anything that is not a loom, a request and its answer */
export function assertPair(call: string, loom: unknown, req: unknown, res: unknown): void {
  assertArgument(call, 'loom', loom, loomKind);
  assertPairObjects(call, req, res);
}

/** @throws {LoomError} for anything that is not a request and its answer */
export function assertPairObjects(call: string, req: unknown, res: unknown): void {
  assertArgument(call, 'request', req, requestKind);
  assertArgument(call, 'answer', res, withMethods('the res beside it', 'setHeader', 'end'));
}

const requestKind = {
  words: 'the req of a Node server; for requests of the Fetch standard there are loom.respond and loom.exchange',
  holds: (value: unknown): boolean =>
    typeof value === 'object' && value !== null && 'rawHeaders' in value && 'headers' in value && 'method' in value,
};
