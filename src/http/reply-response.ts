/** An answer as a `Response` of the Fetch standard. */
import { byteStream } from './byte-stream.ts';
import type { Reply } from './reply.ts';

/** @param headers those of the answer, or what became of them */
export function responseOfReply({ status, headers: own, body }: Reply, headers: HeadersInit = own.entries()): Response {
  const content = body === undefined || typeof body === 'string' ? (body ?? null) : byteStream(body);
  const response = new Response(content, { status, headers });
  if (typeof body === 'string') Object.defineProperty(response, textKey, { value: body });
  return response;
}

/** Where such a response keeps its text: whoever sends it need not read a stream. */
const textKey = Symbol('zip-loom text');

/** The body of a response that the library made, where it is a text and nobody has read it. */
export function knownText(response: Response): string | undefined {
  const { [textKey]: text } = response as { [textKey]?: string };
  return text === undefined || response.bodyUsed ? undefined : text;
}
