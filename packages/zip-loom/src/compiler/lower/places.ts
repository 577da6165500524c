/**
 * Values in attributes: decides from the place how a value is escaped, and refuses the places where none may be. The
 * result is parts that print the attribute; no decision is left for run time, except for attribute lists.
 */

import type { Diagnostic, Report } from '../../diagnostics/index.ts';
import { type AttributeOwner, attributeKind } from '../../kernel/index.ts';
import type { Attribute, Expression, Substitution, Text } from '../../language/index.ts';
import { type Code, js, literal, out, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { fixedAttributeText } from './attribute-text.ts';
import { styleParts } from './style-places.ts';
import { tokensParts } from './token-lists.ts';
import { listParts } from './url-list-places.ts';
import { refreshParts, settlesOrigin, startsFragment, urlParts } from './url-places.ts';

/** What the places of one template need to know. */
export interface AttributePlaces {
  schemes: ReadonlySet<string>;
  report: Report;
  /** The code for a value that is a whole attribute. */
  codeOf(expression: Expression): Code;
}

/**
 * The parts for an attribute that holds at least one substitution, with its name and the whitespace before it.
 * @param owner the element that it is on
 * @param prefix the whitespace and the name, as in the source
 * @returns `undefined` when the place was refused and reported
 */
export function attributeParts(
  owner: AttributeOwner,
  attribute: Attribute,
  prefix: string,
  { schemes, report, codeOf }: AttributePlaces,
): Part[] | undefined {
  const value = attribute.value!;
  const kind = attributeKind(owner, attribute.name);
  const [only] = value;
  const expression = value.length === 1 && only?.kind === 'substitution' ? only.expression : undefined;
  const whole = expression && codeOf(expression);
  const refuse = (diagnostic: Diagnostic) => {
    report(value.find((part) => part.kind === 'substitution')!, diagnostic);
    return undefined;
  };
  if (owner.refresh && attribute.name === 'content') return refreshParts(value, prefix, schemes, refuse);
  switch (kind) {
    case 'refused':
      return refuse(
        attribute.name.startsWith('on')
          ? templateDiagnostic('refused-event-handler', { name: attribute.name })
          : templateDiagnostic('refused-attribute', { name: attribute.name, element: owner.name }),
      );
    case 'boolean':
      if (whole) return print(js`${runtime('booleanAttribute')}(${literal(prefix)}, ${whole})`);
      break;
    case 'enumerated':
      if (whole) return print(js`${runtime('enumeratedAttribute')}(${literal(prefix)}, ${whole})`);
      break;
    case 'tokens':
      if (expression)
        return (
          tokensParts(prefix, expression) ?? print(js`${runtime('tokensAttribute')}(${literal(prefix)}, ${expression})`)
        );
      return quoted(prefix, value, 'tokens');
    case 'style':
      return styleParts(value, prefix, refuse);
    case 'url':
      if (whole) return print(js`${runtime('urlAttribute')}(${out}, ${literal(prefix)}, ${whole})`);
      return urlParts(value, `${prefix}="`, false, schemes, refuse);
    case 'image-url':
      if (whole) return print(js`${runtime('imageURLAttribute')}(${out}, ${literal(prefix)}, ${whole})`);
      return urlParts(value, `${prefix}="`, true, schemes, refuse);
    case 'moment':
      if (whole) return print(js`${runtime('momentAttribute')}(${literal(prefix)}, ${whole})`);
      break;
    case 'code-url':
    case 'drawing-url': {
      const isDrawing = kind === 'drawing-url';
      const what = `“${attribute.name}” of <${owner.name}>`;
      const more = isDrawing ? js`, true` : js``;
      if (whole)
        return print(js`${runtime('codeURLAttribute')}(${literal(prefix)}, ${literal(what)}, ${whole}${more})`);
      if (!settlesOrigin(value) && !(isDrawing && startsFragment(value)))
        return refuse(templateDiagnostic('refused-code-url', { what }));
      return urlParts(value, `${prefix}="`, false, schemes, refuse);
    }
    case 'url-list':
    case 'url-tokens': {
      const isTokens = kind === 'url-tokens';
      const attribute = isTokens ? 'urlTokensAttribute' : 'urlListAttribute';
      if (whole) return print(js`${runtime(attribute)}(${out}, ${literal(prefix)}, ${whole})`);
      return listParts(value, prefix, isTokens, schemes, refuse);
    }
    case 'plain':
      if (whole) return print(js`${runtime('attribute')}(${literal(prefix)}, ${whole})`);
  }
  return quoted(prefix, value, 'attributePart');
}

/** An attribute of text and values, in double quotes. */
function quoted(prefix: string, value: Array<Text | Substitution>, by: 'attributePart' | 'tokens'): Part[] {
  const first = by === 'tokens' ? js`` : js`${out}, `;
  const parts = value.flatMap((part, index) =>
    part.kind === 'text'
      ? [fixed(fixedAttributeText(part.text, value[index + 1] !== undefined))]
      : print(js`${runtime(by)}(${first}${part.expression})`),
  );
  return [fixed(`${prefix}="`), ...parts, fixed('"')];
}
