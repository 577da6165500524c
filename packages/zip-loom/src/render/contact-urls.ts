/** Values in `mailto:` and `tel:`, whose parts have an encoding of their own. What is trusted stays as it is. */
import { trustedURL, trustedURLText } from '../kernel/index.ts';
import { plain } from './text.ts';

/** An address, or several in an array (RFC 6068 §2, “to”): one value cannot add another recipient or a header. */
export function mailAddress(value: unknown): unknown {
  if (Array.isArray(value)) return trustedURL(value.map((one) => encoded(one, /%(?:40|2B)/g)).join(','));
  return asPart(value, (text) => encoded(text, /%(?:40|2B)/g));
}

/** The text of a header or of the body (RFC 6068 §5: lines end with `%0D%0A`). */
export function mailHeader(value: unknown): unknown {
  return asPart(value, (text) => encoded(text.replace(/\r\n?|\n/g, '\r\n'), /%40/g));
}

/** A number (RFC 3966 §3): people write spaces and slashes between its digits, which a URL does not have. */
export function telephoneNumber(value: unknown): unknown {
  return asPart(value, (text) => encoded(text.replace(/[\s/\u00a0]+/g, ''), /%2B/g));
}

function asPart(value: unknown, encode: (text: string) => string): unknown {
  return value === undefined || trustedURLText(value) !== undefined ? value : trustedURL(encode(plain(value)));
}

/** @param literal what need not be encoded there */
function encoded(value: unknown, literal: RegExp): string {
  return encodeURIComponent(plain(value).toWellFormed()).replace(literal, decodeURIComponent);
}
