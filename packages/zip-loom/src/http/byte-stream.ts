/** Text that comes while it is sent, as a stream of bytes in UTF-8. */
import type { TextSource } from './reply.ts';

/** At the pace of whoever reads. */
export function byteStream(source: TextSource): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const text = await source.next();
      if (text === undefined) controller.close();
      else controller.enqueue(encoder.encode(text));
    },
    cancel: () => source.cancel(),
  });
}
