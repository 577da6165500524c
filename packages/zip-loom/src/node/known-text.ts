/** Responses of the platform’s own whose body is a text of the library: whoever sends them need not read a stream. */
import { type Reply, responseOfReply } from '../http/index.ts';

const textKey = Symbol('zip-loom text');

/** The response of an answer, with its text where it has one. */
export function standardResponse(reply: Reply): Response {
  const response = responseOfReply(reply);
  if (typeof reply.body === 'string') Object.defineProperty(response, textKey, { value: reply.body });
  return response;
}

/** The text of such a response, where nobody has read it. */
export function knownText(response: Response): string | undefined {
  const { [textKey]: text } = response as { [textKey]?: string };
  return text === undefined || response.bodyUsed ? undefined : text;
}
