/** Attributes of a call as arguments. */

import { type Near, nearest, type Report } from '../../diagnostics/index.ts';
import {
  type Attribute,
  type Element,
  fixedValue,
  type Parameter,
  type Spread,
  wordsOfAttributes,
} from '../../language/index.ts';
import { type Code, commaList, js, propertyName, quietCode } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { declarationOf, type Template } from '../set/template.ts';
import { valueCode } from './attribute-text.ts';
import type { Place } from './place.ts';
import { argumentValue } from './values.ts';

/** Attributes whose names are words of ECMAScript: their arguments have the names of the DOM’s properties (HTML §3.2.6, §4.10.4). */
const names = new Map(Object.entries(wordsOfAttributes));
const attributes = new Map(Object.entries(wordsOfAttributes).map(([attribute, argument]) => [argument, attribute]));

/** `show-price` → `showPrice`, `class` → `className`. */
export function argumentName(attributeName: string): string {
  return names.get(attributeName) ?? attributeName.replace(/-([a-z0-9])/g, (_, letter: string) => letter.toUpperCase());
}

/** `showPrice` → `show-price`, `className` → `class`. */
export function attributeName(argument: string): string {
  return attributes.get(argument) ?? argument.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
}

/**
 * The value of an argument: an expression alone is passed as it is, text as a string, a bare name as `true`.
 * @param at the place of one that its template requires
 */
export function argumentCode(attribute: Attribute, at?: Place): Code {
  const { value } = attribute;
  if (!value) return js`true`;
  const [only] = value;
  if (value.length > 1 || only?.kind !== 'substitution') return valueCode(value);
  return at ? argumentValue(only.expression, at, argumentName(attribute.name)) : quietCode(only.expression);
}

/**
 * The record of arguments that a call passes. Reports arguments that the template does not take, and required ones that are
 * missing.
 * @param span the tag that calls, or the layout clause
 * @param handedOn what templates take without being told, by parameter
 */
export function argumentsCode(
  items: ReadonlyArray<Attribute | Spread>,
  template: Template,
  span: Element['startTag'],
  at: Place,
  handedOn: Readonly<Record<string, Code>> = {},
): Code {
  const { set, report: say } = at.whole;
  // What a template takes is not known where its file could not be read.
  const report: Report = set.broken.has(template.tree) ? () => {} : say;
  const isGiven = (name: string) => items.some((item) => item.kind === 'attribute' && item.name === name);
  const unasked = Object.entries(handedOn).filter(([name]) => !isGiven(name));
  const entries: Code[] = unasked.map(([name, code]) => js`${propertyName(name)}: ${code}`);
  const given = new Set<string>(unasked.map(([name]) => name));
  const known = new Map(
    template.parameters
      .filter((parameter) => parameter.kind !== 'rest')
      .map((parameter) => [parameter.name, parameter]),
  );
  const takesRest = template.parameters.some((parameter) => parameter.kind === 'rest');
  let spread = false;
  for (const item of items) {
    if (item.kind === 'spread') {
      spread = true;
      entries.push(js`...${item.expression}`);
      continue;
    }
    const name = argumentName(item.name);
    const isKnown = known.has(name);
    if (given.has(name))
      report(item.nameSpan, templateDiagnostic('duplicate-argument', { call: template.name, name: item.name }));
    given.add(name);
    if (!isKnown && !takesRest) {
      report(
        item.nameSpan,
        templateDiagnostic('unknown-argument', {
          call: template.name,
          name: item.name,
          ...meantBy(item.name, [...known.keys()]),
          declaration: declarationOf(template),
        }),
      );
    }
    const parameter = known.get(name);
    const value = parameter && item.value ? fixedValue(item) : undefined;
    const kind = parameter && plainKind(parameter);
    if (kind !== undefined && value !== undefined)
      report(item, templateDiagnostic('invalid-argument', { call: template.name, name: item.name, ...kind(value) }));
    entries.push(
      js`${propertyName(isKnown ? name : item.name)}: ${argumentCode(item, parameter?.kind === 'required' ? at : undefined)}`,
    );
  }
  if (!spread) {
    for (const parameter of known.values()) {
      if (parameter.kind === 'required' && !given.has(parameter.name)) {
        report(
          span,
          templateDiagnostic('missing-argument', {
            call: template.name,
            name: attributeName(parameter.name),
            declaration: declarationOf(template),
          }),
        );
      }
    }
  }
  return entries.length === 0 ? js`{}` : js`{ ${commaList(entries)} }`;
}

type PlainKind = { kind: 'boolean' | 'number'; value: string };

/** What a parameter is by its default, where that is no text; and what would be written instead of some. */
function plainKind(parameter: Parameter): ((text: string) => PlainKind) | undefined {
  if (parameter.kind !== 'default' || parameter.fallback.syntax.type !== 'Literal') return undefined;
  const { value: usual } = parameter.fallback.syntax;
  if (typeof usual === 'boolean') return () => ({ kind: 'boolean', value: '' });
  if (typeof usual !== 'number') return undefined;
  return (text) => ({ kind: 'number', value: /^-?\d+(?:\.\d+)?$/.test(text) ? text : String(usual) });
}

/** Names of attributes have no capital letters. */
function meantBy(written: string, known: string[]): { nearest: Near | undefined; parameter: string | undefined } {
  const parameter = known.find((name) => name.toLowerCase() === written);
  const name = parameter && { name: attributeName(parameter), isSure: true };
  return { nearest: name || nearest(written, known.map(attributeName)), parameter };
}
