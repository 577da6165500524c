/** An answer as a `Response` of the Fetch standard. */
import { byteStream } from './byte-stream.ts';
import type { Reply } from './reply.ts';

/** @param headers those of the answer, or what became of them */
export function responseOfReply({ status, headers: own, body }: Reply, headers: HeadersInit = own.entries()): Response {
  const content = body === undefined || typeof body === 'string' ? (body ?? null) : byteStream(body);
  return new Response(content, { status, headers });
}
