/** Several URLs in one attribute, with values in them (HTML §4.8.4.2.2). */

import { decodeHTMLAttribute } from 'entities';
import { isSpace, type Substitution, type Text } from '../../language/index.ts';
import { js, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { fixedAttributeText } from './attribute-text.ts';
import { type Refuse, refusedScheme, urlOfParts } from './url-places.ts';

/** Several URLs with values in them, each judged by itself: image candidates, or URLs with whitespace between them. */
export function listParts(
  value: Array<Text | Substitution>,
  prefix: string,
  isTokens: boolean,
  schemes: ReadonlySet<string>,
  refuse: Refuse,
): Part[] | undefined {
  const parts: Part[] = [fixed(`${prefix}="`)];
  for (const piece of splitList(value, isTokens)) {
    if (piece.kind === 'between') {
      for (const part of piece.parts) {
        if (part.kind === 'text') parts.push(fixed(fixedAttributeText(part.text, false)));
        else for (const one of print(js`${runtime('urlDescriptor')}(${part.expression})`)) parts.push(one);
      }
      continue;
    }
    const refused = refusedScheme(piece.parts, !isTokens, schemes);
    if (refused !== undefined && piece.parts.some((part) => part.kind === 'substitution'))
      return refuse(templateDiagnostic('refused-scheme', { scheme: refused }));
    const [only] = piece.parts;
    if (piece.parts.length === 1 && only?.kind === 'text') parts.push(fixed(fixedAttributeText(only.text, false)));
    else for (const one of print(js`${runtime('urlListItem')}(${urlOfParts(piece.parts, !isTokens)})`)) parts.push(one);
  }
  return [...parts, fixed('"')];
}

/** URLs, and what is between them: whitespace, commas and descriptors. */
interface ListPiece {
  kind: 'url' | 'between';
  parts: Array<Text | Substitution>;
}

/** Splits image candidates (HTML §4.8.4.2.2), their text decoded, or URLs with whitespace between them. Values neither begin nor end a piece. */
function splitList(value: ReadonlyArray<Text | Substitution>, isTokens: boolean): ListPiece[] {
  const pieces: ListPiece[] = [];
  const add = (kind: ListPiece['kind'], part: Text | Substitution) => {
    const last = pieces.at(-1);
    if (last?.kind !== kind) {
      pieces.push({ kind, parts: [part] });
      return;
    }
    const before = last.parts.at(-1);
    if (part.kind === 'text' && before?.kind === 'text')
      last.parts[last.parts.length - 1] = { ...before, text: before.text + part.text };
    else last.parts.push(part);
  };
  // Behind a URL and whitespace are its descriptors, up to a comma.
  let place: 'before' | 'url' | 'descriptors' = 'before';
  for (const part of value) {
    if (part.kind === 'substitution') {
      if (place === 'before') place = 'url';
      add(place === 'url' ? 'url' : 'between', part);
      continue;
    }
    for (const character of decodeHTMLAttribute(part.text)) {
      const isBlank = isSpace(character.charCodeAt(0));
      if (place === 'url' && (isBlank || (character === ',' && !isTokens))) {
        place = isTokens || character === ',' ? 'before' : 'descriptors';
      } else if (place === 'descriptors' && character === ',') place = 'before';
      else if (place === 'before' && !isBlank && (character !== ',' || isTokens)) place = 'url';
      add(place === 'url' ? 'url' : 'between', { ...part, text: character === '&' ? '&amp;' : character });
    }
  }
  return pieces;
}
