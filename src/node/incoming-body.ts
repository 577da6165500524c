/** The body of a request of Node’s as a stream of the Fetch standard. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';

/**
 * Bytes at the pace of whoever reads. Nothing of the request is touched before the first is asked for: what nobody reads, Node
 * itself throws away when the answer has been sent. Node may go on feeding a body that was cancelled; then the rest is thrown away.
 */
export function bodyOf(incoming: IncomingMessage | Http2ServerRequest): ReadableStream<Uint8Array> {
  let detach = () => {};
  const begin = (controller: ReadableStreamDefaultController<Uint8Array>) => {
    const onData = (chunk: Uint8Array) => {
      incoming.pause();
      controller.enqueue(chunk);
    };
    const onEnd = () => {
      detach();
      controller.close();
    };
    const onCut = () => {
      detach();
      controller.error(new Error('The body was cut off.'));
    };
    incoming.pause();
    incoming.on('data', onData).on('end', onEnd).on('error', onCut).on('close', onCut);
    detach = () => {
      incoming.off('data', onData).off('end', onEnd).off('close', onCut);
      // Whatever fails from now on is nobody’s concern, but an error without a listener would end the process.
      incoming.off('error', onCut).on('error', () => {});
    };
    if (incoming.destroyed) onCut();
  };
  let hasBegun = false;
  return new ReadableStream<Uint8Array>(
    {
      pull(controller) {
        if (!hasBegun) {
          hasBegun = true;
          begin(controller);
        }
        incoming.resume();
      },
      cancel() {
        detach();
        incoming.resume();
      },
    },
    { highWaterMark: 0 },
  );
}
