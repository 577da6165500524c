/** Kinds of characters, for readers that look at one after the other. Codes are UTF-16 code units; beyond the end they are `NaN`. */

/** Codes of the characters that have a meaning in markup, clauses and expressions. */
export const character = {
  lineFeed: 0x0a,
  exclamation: 0x21,
  doubleQuote: 0x22,
  dollar: 0x24,
  singleQuote: 0x27,
  open: 0x28,
  close: 0x29,
  comma: 0x2c,
  hyphen: 0x2d,
  dot: 0x2e,
  slash: 0x2f,
  less: 0x3c,
  equals: 0x3d,
  greater: 0x3e,
  question: 0x3f,
  backslash: 0x5c,
  underscore: 0x5f,
  openBrace: 0x7b,
  closeBrace: 0x7d,
} as const;

/** A to Z and a to z. */
export function isLetter(code: number): boolean {
  return (code >= 0x61 && code <= 0x7a) || (code >= 0x41 && code <= 0x5a);
}

/** The first offset at or after `at` that is not whitespace of ECMAScript (ECMA-262 §12.2 and §12.3). */
export function skipScriptSpace(source: string, at: number): number {
  let next = at;
  for (let code = source.charCodeAt(next); isScriptSpace(code); code = source.charCodeAt(next)) next++;
  return next;
}

/** Whitespace of ECMAScript, line breaks included. */
export function isScriptSpace(code: number): boolean {
  if (code < 0x80) return code === 0x20 || (code >= 0x09 && code <= 0x0d);
  return code >= 0x80 && /\s/.test(String.fromCharCode(code));
}

/** Whether an ASCII character may begin a name of ECMAScript. */
export function startsName(code: number): boolean {
  return isLetter(code) || code === character.dollar || code === character.underscore;
}

/** Whether an ASCII character may be in a name of ECMAScript. */
export function continuesName(code: number): boolean {
  return startsName(code) || (code >= 0x30 && code <= 0x39);
}

/** Only A to Z: other letters keep their case in HTML names (Infra §4.6 “ASCII lowercase”). */
export function lowerCase(name: string): string {
  for (let at = 0; at < name.length; at++) {
    const code = name.charCodeAt(at);
    if (code >= 0x41 && code <= 0x5a) return name.replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
  }
  return name;
}
