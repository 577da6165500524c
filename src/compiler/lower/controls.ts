/** Forms, controls, labels and options: what is completed at run time besides what the author wrote. */

import { decodeHTMLAttribute } from 'entities';
import { type Attribute, attributeOf, type Element, fixedValue } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import {
  type Code,
  commaList,
  constant,
  fixed,
  js,
  literal,
  local,
  type Name,
  out,
  type Part,
  print,
  propertyName,
  runtime,
} from '../parts.ts';
import { joinedText, sum, valueCode } from './attribute-text.ts';
import { isContent } from './fills.ts';
import { addressCode, reportScheme } from './places.ts';
import { type Completion, type Resolution, use, useValues } from './resolution.ts';

/** What an element is completed with, if anything. */
export function completionOf(element: Element, at: Resolution): Completion | undefined {
  const own = at.completions.get(element);
  const special = element.namespace === 'html' ? specialCompletion(element, at) : nonceCompletion(element);
  if (!own || !special) return own ?? special;
  const wrap = (parts: Part[]) => own.wrap?.(special.wrap?.(parts) ?? parts) ?? special.wrap?.(parts) ?? parts;
  const attributes = [...(own.attributes ?? []), ...(special.attributes ?? [])];
  return { ...special, ...own, attributes, wrap };
}

function specialCompletion(element: Element, at: Resolution): Completion | undefined {
  const nonce = nonceCompletion(element);
  if (nonce) return nonce;
  switch (element.name) {
    case 'form':
      return formCompletion(element, at);
    case 'head':
      return {
        start: at.set.hasLateContent ? [{ kind: 'run', code: js`${runtime('printWayBack')}(${out})` }] : [],
        after: [{ kind: 'run', code: js`${runtime('closeHead')}(${out})` }],
      };
    case 'body':
      return {
        start: [{ kind: 'run', code: js`${runtime('openBody')}(${out})` }],
        after: [{ kind: 'run', code: js`${runtime('closeBody')}(${out})` }],
      };
    case 'base':
      return baseCompletion(element, at);
    case 'button':
      return submitterCompletion(element, at);
    case 'input':
      return controlCompletion(element, at) ?? submitterCompletion(element, at);
    case 'select':
    case 'textarea':
      return controlCompletion(element, at);
    case 'label':
      return labelCompletion(element, at);
    case 'option':
      return optionCompletion(element, at);
    default:
      return undefined;
  }
}

function nonceCompletion(element: Element): Completion | undefined {
  if (!takesNonce(element)) return undefined;
  return { attributes: [{ kind: 'run', code: js`${runtime('printNonce')}(${out})` }] };
}

/** Scripts and style sheets that a Content-Security-Policy asks about (CSP §6.7.2.3), unless the author wrote a nonce. */
function takesNonce(element: Element): boolean {
  if (element.name !== 'script' && element.name !== 'style' && element.name !== 'link') return false;
  if (attributeOf(element, 'nonce')) return false;
  if (element.name !== 'link') return true;
  return /(^|\s)(stylesheet|modulepreload)(\s|$)/i.test(fixedValue(attributeOf(element, 'rel')) ?? '');
}

/** A form that posts: its action and method are written at run time, and hidden fields stand at its end. */
function formCompletion(element: Element, at: Resolution): Completion | undefined {
  const action = attributeOf(element, 'action');
  const method = attributeOf(element, 'method');
  const fixedMethod = fixedValue(method)?.trim().toLowerCase();
  if (fixedMethod === '' || fixedMethod === 'get' || fixedMethod === 'dialog' || !method) return undefined;
  const spread = element.items.find((item) => item.kind === 'spread');
  if (spread) at.report(spread, templateDiagnostic('refused-form-spread'));
  useValues(action, at);
  useValues(method, at);
  reportScheme(action, at.schemes, at.report);
  const address = addressCode(action) ?? 'undefined';
  const form = at.bound ?? 'undefined';
  const id = attributeOf(element, 'id');
  useValues(id, at);
  const idCode = id ? textCode(id) : 'undefined';
  // Of several attributes of one name the first counts, also where the others stand before those that are written here.
  const replaced = element.items.filter(
    (item): item is Attribute => item.kind === 'attribute' && (item.name === 'action' || item.name === 'method'),
  );
  return {
    dropped: new Set(replaced),
    attributes: [
      { kind: 'run', code: js`${runtime('openForm')}(${out}, ${form}, ${address}, ${textCode(method)}, ${idCode})` },
    ],
    after: [{ kind: 'run', code: js`${runtime('closeForm')}(${out})` }],
  };
}

/** A button that may send its form elsewhere, or as a query; it may stand outside of the form. */
function submitterCompletion(element: Element, at: Resolution): Completion | undefined {
  if (!decidesCourse(element)) return undefined;
  const [form, action, method] = ['form', 'formaction', 'formmethod'].map((name) => attributeOf(element, name));
  for (const attribute of [form, action, method]) useValues(attribute, at);
  const texts = [form, method].map((attribute) => (attribute ? textCode(attribute) : 'undefined'));
  const address = addressCode(action) ?? (action ? js`''` : 'undefined');
  return { before: print(js`${runtime('noteSubmitter')}(${out}, ${texts[0]!}, ${address}, ${texts[1]!})`) };
}

function decidesCourse(element: Element): boolean {
  // With a list of attributes the run-time notes it, for the list may hold any of them.
  if (element.items.some((item) => item.kind === 'spread')) return false;
  return attributeOf(element, 'formaction') !== undefined || attributeOf(element, 'formmethod') !== undefined;
}

/** The `<base>` of the document, by which relative addresses lead elsewhere. */
function baseCompletion(element: Element, at: Resolution): Completion | undefined {
  const attribute = attributeOf(element, 'href');
  const address = addressCode(attribute);
  if (!address || element.items.some((item) => item.kind === 'spread')) return undefined;
  useValues(attribute, at);
  return { before: print(js`${runtime('noteBase')}(${out}, ${address})`) };
}

/** The value of an attribute as text, for what is noted and not printed. */
function textCode(attribute: Attribute): Code {
  return joinedText(attribute.value ?? []);
}

/** Types of `<input>` that hold no value of a form. */
const buttonTypes = new Set(['submit', 'button', 'image', 'reset']);

function controlCompletion(element: Element, at: Resolution): Completion | undefined {
  const name = attributeOf(element, 'name');
  const type = fixedValue(attributeOf(element, 'type'))?.trim().toLowerCase();
  if (!at.bound || !name || (element.name === 'input' && type !== undefined && buttonTypes.has(type))) return undefined;
  useValues(name, at);
  const control = local('control', ++at.count.names);
  const written = writtenCode(element, at);
  const value = isFixed(element)
    ? js`${runtime('controlAt')}(${out}, ${at.bound}, ${siteOf(element, name, written, at)})`
    : js`${runtime('control')}(${out}, ${at.bound}, ${literal(element.name)}, ${valueCode(name.value ?? [])}, ${written})`;
  const isEmpty = !element.children.some(isContent);
  return {
    before: print(js`${control}.before`),
    attributes: print(js`${control}.attributes`),
    content: isEmpty && element.name !== 'input' ? print(js`${control}.content`) : undefined,
    inside: element.name === 'select' ? { select: control } : {},
    wrap: (parts): Part[] => [{ kind: 'const', name: control, value, parts, place: element.startTag }],
  };
}

/** Whether a control is the same on every page, but for what the form adds. */
function isFixed(element: Element): boolean {
  return element.items.every(
    (item) => item.kind !== 'spread' && (item.kind !== 'attribute' || !item.value || fixedValue(item) !== undefined),
  );
}

/** The constant for a control with fixed attributes. */
function siteOf(element: Element, name: Attribute, written: Code, at: Resolution): Name {
  const site = constant('site', ++at.count.names);
  const value = js`${runtime('controlSite')}(${literal(element.name)}, ${valueCode(name.value ?? [])}, ${written})`;
  at.hoisted.push({ name: site, value });
  return site;
}

/** The attributes that the author wrote, as a record. */
function writtenCode(element: Element, at: Resolution): Code {
  const entries = element.items.flatMap((item): Code[] => {
    if (item.kind === 'spread') return [js`...${use(item.expression, at)}`];
    if (item.kind !== 'attribute' || item.name === 'name') return [];
    useValues(item, at);
    return [js`${propertyName(item.name)}: ${item.value ? valueCode(item.value) : 'true'}`];
  });
  return entries.length === 0 ? js`{}` : js`{ ${commaList(entries)} }`;
}

function labelCompletion(element: Element, at: Resolution): Completion | undefined {
  const target = attributeOf(element, 'for');
  if (!at.bound || !target?.value) return undefined;
  useValues(target, at);
  const attributes = [fixed(' for="'), ...print(targetCode(target, at.bound, at)), fixed('"')];
  return { dropped: new Set([target]), attributes };
}

/** The id that a label points to, escaped. */
function targetCode(target: Attribute, bound: Name, at: Resolution): Code {
  const name = valueCode(target.value ?? []);
  if (fixedValue(target) === undefined) return js`${runtime('labelFor')}(${bound}, ${name})`;
  const site = constant('label', ++at.count.names);
  at.hoisted.push({ name: site, value: js`${runtime('fieldSite')}(${name})` });
  return js`${bound}.targetOf(${site})`;
}

/** An option that the author wrote inside a bound `<select>`. */
function optionCompletion(element: Element, at: Resolution): Completion | undefined {
  if (!at.select || attributeOf(element, 'selected')) return undefined;
  const value = attributeOf(element, 'value');
  useValues(value, at);
  const text = element.children.map((child) => {
    if (child.kind === 'substitution') return js`${runtime('plain')}(${child.expression})`;
    return js`${literal(child.kind === 'text' ? decodeHTMLAttribute(child.text) : '')}`;
  });
  // Without a value an option’s text counts, its white space stripped and collapsed (HTML §4.10.10).
  const submitted = value ? valueCode(value.value ?? []) : js`(${sum(text)}).trim().replace(/\\s+/g, ' ')`;
  return { attributes: print(js`(${at.select}.isChosen(String(${submitted})) ? ' selected' : '')`) };
}
