/** Messages as an answer, for whoever wants to stop at what was wrong: a page of the site, or plain text where there is no site. */

/** Makes the answer of a site for an error. */
export type AnswerForError = (status: number, options: { text: string }) => Response;

/**
 * @param errors names → messages; `''` for what concerns all of it
 * @param labelOf what visitors read at a field
 * @param answer makes it, where the form was read for a site
 */
export function messagesAnswer(
  errors: Readonly<Record<string, readonly string[]>>,
  labelOf: (name: string) => string,
  status: number,
  answer: AnswerForError = plainAnswer,
): Response {
  const lines = Object.entries(errors).map(
    ([name, messages]) => `${name === '' ? '' : `${labelOf(name)}: `}${messages.join(' ')}`,
  );
  return answer(status, { text: lines.join('\n') });
}

function plainAnswer(status: number, { text }: { text: string }): Response {
  const headers = { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' };
  return new Response(`${text}\n`, { status, headers });
}
