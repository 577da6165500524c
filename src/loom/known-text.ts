/** Bodies that are texts already: whoever sends them need not read a stream. */

const texts = new WeakMap<Response, string>();

/** A response whose body is a text. */
export function textResponse(body: string, init: ResponseInit): Response {
  const response = new Response(body, init);
  texts.set(response, body);
  return response;
}

/** The body of a response that a loom made, where it is a text and nobody has read it. */
export function knownText(response: Response): string | undefined {
  return response.bodyUsed ? undefined : texts.get(response);
}
