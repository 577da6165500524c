/** What can be wrong with what is given as a request. */
import { catalogue, worded } from '../diagnostics/index.ts';

const requestHints = {
  node: 'Hand on both: respondTo(loom, req, res, page, data) and nodeExchange(loom, req, res) of “zip-loom/node”, or channels.connect(req, res, options).',
  wrapped: 'Give the request inside it: c.req.raw of Hono; of Fastify, request.raw and reply.raw to “zip-loom/node”.',
  other: 'Give a Request; under Node, “zip-loom/node” has nodeListener, respondTo and nodeExchange.',
};

const wordings = {
  'invalid-request': worded<{ kind: 'node' | 'wrapped' | 'other' }>({
    message: ({ kind }) =>
      kind === 'node'
        ? 'This is a request of Node’s, not one of the Fetch standard.'
        : 'What was given is not a request of the Fetch standard.',
    hint: ({ kind }) => requestHints[kind],
    examples: [{ kind: 'node' }, { kind: 'wrapped' }, { kind: 'other' }],
  }),
};

export const requestDiagnostic = catalogue(wordings);
