/** Fixed text around values, and values as text in code: what several places need. */
import { decodeHTMLAttribute } from 'entities';
import type { Substitution, Text } from '../../language/index.ts';
import { type Code, js, literal, runtime, sum } from '../code.ts';

/** Fixed text of an attribute as it is between double quotes, so that no character reference begins in it and ends in a value. */
export function fixedAttributeText(text: string, beforeValue: boolean): string {
  const quotedText = text.replaceAll('"', '&quot;');
  return beforeValue ? closeReference(quotedText) : quotedText;
}

/** Decoded text of an attribute as it is between double quotes. */
export function printedAttributeText(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}

/** An `&` at the end of fixed text that would begin a character reference together with a value (HTML §13.2.5.72). */
export function closeReference(text: string): string {
  return text.includes('&') ? text.replace(/&(?=#?[a-z0-9]*$)/i, '&amp;') : text;
}

/** Text and values as one text in code, character references decoded: for what is used, not printed. */
export function joinedText(value: ReadonlyArray<Text | Substitution>): Code {
  return sum(
    value.map((part) =>
      part.kind === 'text'
        ? js`${literal(decodeHTMLAttribute(part.text))}`
        : js`${runtime('plain')}(${part.expression})`,
    ),
  );
}

/** As `joinedText`; a value alone is handed over as it is. */
export function valueCode(value: ReadonlyArray<Text | Substitution>): Code {
  const [only] = value;
  return value.length === 1 && only?.kind === 'substitution' ? js`(${only.expression})` : joinedText(value);
}
