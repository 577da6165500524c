/** `application/x-www-form-urlencoded` parsing (URL standard §5.1). */

/**
 * Names and values in their order. Percent signs that begin no byte stand for themselves; bytes that are not UTF-8 become
 * U+FFFD.
 * @param most how many to read; what follows is left out
 */
export function parseURLEncoded(text: string, most: number): Array<[name: string, value: string]> {
  const entries: Array<[string, string]> = [];
  for (let start = 0; start < text.length && entries.length < most; ) {
    const ampersand = text.indexOf('&', start);
    const end = ampersand === -1 ? text.length : ampersand;
    if (end > start) {
      const pair = text.slice(start, end);
      const equals = pair.indexOf('=');
      entries.push(
        equals === -1 ? [decode(pair), ''] : [decode(pair.slice(0, equals)), decode(pair.slice(equals + 1))],
      );
    }
    start = end + 1;
  }
  return entries;
}

const encoder = new TextEncoder();
const decoder = new TextDecoder('utf-8', { ignoreBOM: true });

function decode(text: string): string {
  if (!/[%+\ud800-\udfff]/.test(text)) return text;
  const spaced = text.includes('+') ? text.replaceAll('+', ' ') : text;
  return decodeASCII(spaced) ?? decodeBytes(spaced);
}

/** Decodes what is percent-encoded as long as it is ASCII, which is most of it in most languages’ forms; else `undefined`. */
function decodeASCII(text: string): string | undefined {
  let decoded = '';
  let copied = 0;
  for (let at = text.indexOf('%'); at !== -1; at = text.indexOf('%', at + 1)) {
    const byte = 16 * hexDigit(text.charCodeAt(at + 1)) + hexDigit(text.charCodeAt(at + 2));
    if (byte >= 0x80) return undefined;
    if (Number.isNaN(byte)) continue;
    decoded += text.slice(copied, at) + String.fromCharCode(byte);
    copied = at + 3;
  }
  return (copied === 0 ? text : decoded + text.slice(copied)).toWellFormed();
}

function hexDigit(code: number): number {
  if (code >= 0x30 && code <= 0x39) return code - 0x30;
  const lower = code | 0x20;
  return lower >= 0x61 && lower <= 0x66 ? lower - 0x57 : Number.NaN;
}

/** Percent-decode, then UTF-8 decode without BOM (URL standard §1.3). */
function decodeBytes(text: string): string {
  const input = encoder.encode(text);
  const output = new Uint8Array(input.length);
  let length = 0;
  for (let at = 0; at < input.length; at++) {
    const byte = input[at] === 0x25 ? 16 * hexDigit(input[at + 1] ?? 0) + hexDigit(input[at + 2] ?? 0) : Number.NaN;
    if (Number.isNaN(byte)) {
      output[length++] = input[at]!;
    } else {
      output[length++] = byte;
      at += 2;
    }
  }
  return decoder.decode(output.subarray(0, length));
}
