/** Whether two pages are the same to who reads them in a browser: the same tree, where whitespace of any length is one space. */
import { parse, serialize } from 'parse5';

export function isSamePage(one: string, other: string): boolean {
  return shown(one) === shown(other);
}

function shown(html: string): string {
  // Serialized (HTML §13.3), tags have no space of their own.
  const parts = serialize(parse(html)).split(
    /(<(?:pre|textarea|script|style)\b[\s\S]*?<\/(?:pre|textarea|script|style)>)/,
  );
  const text = parts.map((part, at) => (at % 2 === 1 ? part : part.replace(/[ \t\n\f\r]+/g, ' '))).join('');
  // The last line of a page ends or does not; space around the head is not shown.
  return text.replace(/ ?<\/head> ?/, '</head>').replace(/ <\/body><\/html>\s*$/, '</body></html>');
}
