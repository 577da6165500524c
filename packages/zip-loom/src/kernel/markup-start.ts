/** The start of markup, read character by character: no input takes longer than its length. */

/** The offset of the first tag or text: after whitespace, comments, a doctype and processing instructions. */
export function startOfContent(markup: string): number {
  let at = 0;
  for (;;) {
    while (isMarkupSpace(markup.charCodeAt(at))) at++;
    const end = markup.startsWith('<!--', at)
      ? after(markup, '-->', at + 4)
      : markup.startsWith('<!', at) || markup.startsWith('<?', at)
        ? after(markup, '>', at + 2)
        : at;
    // What never ends is no start of anything.
    if (end <= at) return end === at ? at : markup.length;
    at = end;
  }
}

/** The name of the first element, in lower case; '' if the markup begins with text. */
export function firstElementName(markup: string): string {
  const start = startOfContent(markup);
  return /^<([a-z][a-z0-9:-]*)/i.exec(markup.slice(start, start + longestName))?.[1]?.toLowerCase() ?? '';
}

/** Names of elements that anybody asks for are shorter. */
const longestName = 80;

/** The offset after a tag, `>` in quotes left out; `-1` if it does not end. */
export function endOfTag(markup: string, start: number): number {
  let quote = '';
  for (let at = start; at < markup.length; at++) {
    const character = markup[at]!;
    if (quote !== '') {
      if (character === quote) quote = '';
    } else if (character === '"' || character === "'") quote = character;
    else if (character === '>') return at + 1;
  }
  return -1;
}

function after(markup: string, end: string, from: number): number {
  const at = markup.indexOf(end, from);
  return at === -1 ? -1 : at + end.length;
}

/** Whitespace of HTML and XML. */
function isMarkupSpace(code: number): boolean {
  return code === 0x20 || (code >= 0x09 && code <= 0x0d) || code === 0xfeff;
}
