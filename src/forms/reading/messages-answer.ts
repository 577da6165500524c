/** Messages as an answer in plain text, for whoever wants to stop at what was wrong. */

/**
 * @param errors names → messages; `''` for what concerns all of it
 * @param labelOf what visitors read at a field
 */
export function messagesAnswer(
  errors: Readonly<Record<string, readonly string[]>>,
  labelOf: (name: string) => string,
  status: number,
): Response {
  const lines = Object.entries(errors).map(
    ([name, messages]) => `${name === '' ? '' : `${labelOf(name)}: `}${messages.join(' ')}`,
  );
  return new Response(`${lines.join('\n')}\n`, {
    status,
    headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' },
  });
}
