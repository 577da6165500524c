/** Text as markup (HTML §13.1.2.3). */

/** Text for an element’s content or a quoted attribute: `& < > " '` as character references, lone surrogates as U+FFFD. */
export function escapeText(text: string): string {
  special.lastIndex = 0;
  if (!special.test(text)) return text;
  const first = special.lastIndex - 1;
  return text.length - first < shortText ? escapeFrom(text, first) : escapeLong(text, first);
}

/** The five characters that mean something in text and in quoted attributes (HTML §13.1.2.3), and surrogates, to be looked at. */
const special = /[&<>"'\ud800-\udfff]/g;

function escapeFrom(text: string, first: number): string {
  let result = '';
  let copied = 0;
  for (let at = first; at < text.length; at++) {
    const replacement = replacementAt(text, at);
    if (replacement === undefined) continue;
    if (replacement === pair) {
      at++;
      continue;
    }
    result += text.slice(copied, at) + replacement;
    copied = at + 1;
  }
  return result + text.slice(copied);
}

/** Below this many code units, looking at each is faster than looking for the next. */
const shortText = 50;

function escapeLong(text: string, first: number): string {
  let result = '';
  let copied = 0;
  special.lastIndex = first;
  for (let found = special.exec(text); found; found = special.exec(text)) {
    const { index } = found;
    const replacement = replacementAt(text, index);
    if (replacement === pair) {
      special.lastIndex = index + 2;
      continue;
    }
    result += text.slice(copied, index) + replacement;
    copied = index + 1;
  }
  return result + text.slice(copied);
}

/** Stands for a surrogate pair, which is kept. */
const pair = '';

function replacementAt(text: string, at: number): string | undefined {
  const code = text.charCodeAt(at);
  switch (code) {
    case 0x26:
      return '&amp;';
    case 0x3c:
      return '&lt;';
    case 0x3e:
      return '&gt;';
    case 0x22:
      return '&quot;';
    case 0x27:
      return '&#39;';
  }
  if (code < 0xd800 || code > 0xdfff) return undefined;
  const next = text.charCodeAt(at + 1);
  return code <= 0xdbff && next >= 0xdc00 && next <= 0xdfff ? pair : '\ufffd';
}
