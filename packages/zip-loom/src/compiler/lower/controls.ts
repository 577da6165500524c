/** Forms, controls, labels and options: what is completed at run time besides what the author wrote. */

import { decodeHTMLAttribute } from 'entities';
import {
  type Attribute,
  attributeOf,
  type Element,
  fixedValue,
  isContent,
  keyword,
  walk,
} from '../../language/index.ts';
import {
  type Code,
  commaList,
  constant,
  js,
  literal,
  local,
  type Name,
  out,
  propertyName,
  runtime,
  sum,
} from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { isFileField } from '../set/contents.ts';
import { argumentCode } from './arguments.ts';
import { joinedText, valueCode } from './attribute-text.ts';
import { mayHoldEdits, noteFirstSubmitter } from './edit-buttons.ts';
import { reportForm } from './form-notes.ts';
import { withBase } from './mounting.ts';
import type { Completion, Place } from './place.ts';
import { reportScheme, urlCode } from './url-places.ts';

/** What an element is completed with, if anything. */
export function completionOf(element: Element, at: Place): Completion | undefined {
  const own = at.completions.get(element);
  const special = element.namespace === 'html' ? specialCompletion(element, at) : nonceCompletion(element);
  if (!own || !special) return own ?? special;
  const wrap = (parts: Part[]) => own.wrap?.(special.wrap?.(parts) ?? parts) ?? special.wrap?.(parts) ?? parts;
  const attributes = [...(own.attributes ?? []), ...(special.attributes ?? [])];
  return { ...special, ...own, attributes, wrap };
}

function specialCompletion(element: Element, at: Place): Completion | undefined {
  const nonce = nonceCompletion(element);
  if (nonce) return nonce;
  switch (element.name) {
    case 'form':
      return formCompletion(element, at);
    case 'head':
      return {
        start: at.whole.set.hasLateContent ? [{ kind: 'run', code: js`${runtime('printWayBack')}(${out})` }] : [],
        after: [{ kind: 'run', code: js`${runtime('closeHead')}(${out})` }],
      };
    case 'body':
      return {
        start: [{ kind: 'run', code: js`${runtime('openBody')}(${out})` }],
        after: [{ kind: 'run', code: js`${runtime('closeBody')}(${out})` }],
      };
    case 'title':
      return titleCompletion(element, at);
    case 'base':
      return baseCompletion(element);
    case 'button':
      return submitterCompletion(element, at);
    case 'input':
      return controlCompletion(element, at) ?? submitterCompletion(element, at) ?? fileCompletion(element, at);
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

/** A form that posts: its action and method are written at run time, and hidden fields are at its end. */
function formCompletion(element: Element, at: Place): Completion | undefined {
  reportForm(element, at);
  const written = attributeOf(element, 'action');
  const action = written && withBase(element, written, at.whole.base);
  const method = attributeOf(element, 'method');
  const fixedMethod = keywordOf(method);
  if (fixedMethod === '' || fixedMethod === 'get' || fixedMethod === 'dialog' || !method) return undefined;
  const spread = element.items.find((item) => item.kind === 'spread');
  if (spread) at.whole.report(spread, templateDiagnostic('refused-form-spread'));
  reportScheme(action, at.whole.schemes, at.whole.report);
  const href = urlCode(action) ?? 'undefined';
  const form = at.bound ?? 'undefined';
  const id = attributeOf(element, 'id');
  const idCode = id ? textCode(id) : 'undefined';
  // Of several attributes of one name the first counts, also where the others are before those that are written here.
  const replaced = element.items.filter(
    (item): item is Attribute => item.kind === 'attribute' && (item.name === 'action' || item.name === 'method'),
  );
  const files = filesOf(element, at);
  const more = files ? js`, ${literal(files)}` : js``;
  return {
    dropped: new Set(replaced),
    attributes: [
      {
        kind: 'run',
        code: js`${runtime('openForm')}(${out}, ${form}, ${href}, ${textCode(method)}, ${idCode}${more})`,
      },
    ],
    // With files the token comes first, so that they can be refused before they have come.
    start: [
      ...run(files || at.bound, js`${runtime('printFirstToken')}(${out}${files === 'perhaps' ? js`, true` : js``})`),
      ...run(mayHoldEdits(element, at), js`${runtime('printFirstSubmitter')}(${out})`),
    ],
    after: [{ kind: 'run', code: js`${runtime('closeForm')}(${out})` }],
  };
}

function run(isWanted: unknown, code: Code): Part[] {
  return isWanted ? [{ kind: 'run', code }] : [];
}

/** Whether a form has files: by what the author wrote, a field inside, or perhaps one in another template. */
function filesOf(form: Element, at: Place): 'written' | 'inside' | 'perhaps' | undefined {
  if (attributeOf(form, 'enctype')) return 'written';
  let isInside = false;
  walk(form.children, {
    element(inner) {
      isInside ||= isFileField(inner);
      return undefined;
    },
  });
  return isInside ? 'inside' : at.whole.set.hasStrayFiles ? 'perhaps' : undefined;
}

/** A file field whose form is in another template. */
function fileCompletion(element: Element, at: Place): Completion | undefined {
  if (!isFileField(element) || !at.whole.set.hasStrayFiles) return undefined;
  const form = attributeOf(element, 'form');
  return { before: print(js`${runtime('noteFile')}(${out}, ${form ? textCode(form) : 'undefined'})`) };
}

/** A button that may send its form elsewhere, or as a query; it may be outside of the form. */
function submitterCompletion(element: Element, at: Place): Completion | undefined {
  const first = noteFirstSubmitter(element, at);
  if (!decidesCourse(element)) return first.length > 0 ? { before: first } : undefined;
  const [form, action, method] = ['form', 'formaction', 'formmethod'].map((name) => attributeOf(element, name));
  const texts = [form, method].map((attribute) => (attribute ? textCode(attribute) : 'undefined'));
  const href = urlCode(action) ?? (action ? js`''` : 'undefined');
  return { before: [...first, ...print(js`${runtime('noteSubmitter')}(${out}, ${texts[0]!}, ${href}, ${texts[1]!})`)] };
}

function decidesCourse(element: Element): boolean {
  // With a list of attributes the run-time notes it, for the list may hold any of them.
  if (element.items.some((item) => item.kind === 'spread')) return false;
  return attributeOf(element, 'formaction') !== undefined || attributeOf(element, 'formmethod') !== undefined;
}

/** A title that may differ from page to page: where there are no regions nobody asks for the parts of a page. */
function titleCompletion({ children }: Element, { whole: { set } }: Place): Completion | undefined {
  if (!set.hasRegions || children.length === 0) return undefined;
  return {
    start: [{ kind: 'run', code: js`${runtime('openTitle')}(${out})` }],
    end: [{ kind: 'run', code: js`${runtime('closeTitle')}(${out})` }],
  };
}

/** The `<base>` of the document, by which relative URLs lead elsewhere. */
function baseCompletion(element: Element): Completion | undefined {
  const attribute = attributeOf(element, 'href');
  const href = urlCode(attribute);
  if (!href || element.items.some((item) => item.kind === 'spread')) return undefined;
  return { before: print(js`${runtime('noteBase')}(${out}, ${href})`) };
}

/** The value of an attribute as text, for what is noted and not printed. */
function textCode(attribute: Attribute): Code {
  return joinedText(attribute.value ?? []);
}

/** Types of `<input>` that hold no value of a form. */
const buttonTypes = new Set(['submit', 'button', 'image', 'reset']);

function controlCompletion(element: Element, at: Place): Completion | undefined {
  const name = attributeOf(element, 'name');
  const type = keywordOf(attributeOf(element, 'type'));
  if (!at.bound || !name || (element.name === 'input' && type !== undefined && buttonTypes.has(type))) return undefined;
  const control = local('control', ++at.whole.count.names);
  const written = writtenCode(element);
  const autofocus = attributeOf(element, 'autofocus');
  // A form that was changed has the focus where it was changed: it is the form that prints this.
  const focus = autofocus ? js`, ${autofocus.value ? valueCode(autofocus.value) : js`true`}` : js``;
  const value = isFixed(element)
    ? js`${runtime('controlAt')}(${out}, ${at.bound}, ${siteOf(element, name, js`${written}${focus}`, at)})`
    : js`${runtime('control')}(${out}, ${at.bound}, ${literal(element.name)}, ${valueCode(name.value ?? [])}, ${written}${focus})`;
  const isEmpty = !element.children.some(isContent);
  const isPrompt = element.name === 'select' && holdsPromptAlone(element);
  return {
    before: print(js`${control}.before`),
    dropped: new Set(autofocus ? [autofocus] : []),
    attributes: print(js`${control}.attributes`),
    content: isEmpty && element.name !== 'input' ? print(js`${control}.content`) : undefined,
    end: isPrompt ? print(js`${control}.choices`) : [],
    inside: element.name === 'select' ? { select: control } : {},
    wrap: (parts): Part[] => [{ kind: 'const', name: control, value, parts, place: element.startTag }],
  };
}

/** Whether all options of a `<select>` have an empty value, so that the choices are still to come. */
function holdsPromptAlone({ children }: Element): boolean {
  const content = children.filter(isContent);
  return (
    content.length > 0 &&
    content.every((node) => node.kind === 'comment' || (node.kind === 'element' && isEmptyOption(node)))
  );
}

function isEmptyOption(element: Element): boolean {
  const value = element.name === 'option' ? attributeOf(element, 'value') : undefined;
  return value !== undefined && (fixedValue(value) ?? 'x') === '';
}

/** Whether a control is the same on every page, but for what the form adds. */
function isFixed(element: Element): boolean {
  return element.items.every(
    (item) => item.kind !== 'spread' && (item.kind !== 'attribute' || !item.value || fixedValue(item) !== undefined),
  );
}

/** The constant for a control with fixed attributes. */
function siteOf(element: Element, name: Attribute, written: Code, at: Place): Name {
  const site = constant('site', ++at.whole.count.names);
  const value = js`${runtime('controlSite')}(${literal(element.name)}, ${valueCode(name.value ?? [])}, ${written})`;
  at.whole.hoisted.push({ name: site, value });
  return site;
}

/** The attributes that the author wrote, as a record. */
function writtenCode(element: Element): Code {
  const entries = element.items.flatMap((item): Code[] => {
    if (item.kind === 'spread') return [js`...${item.expression}`];
    if (item.kind !== 'attribute' || item.name === 'name' || item.name === 'autofocus') return [];
    return [js`${propertyName(item.name)}: ${item.value ? valueCode(item.value) : 'true'}`];
  });
  return entries.length === 0 ? js`{}` : js`{ ${commaList(entries)} }`;
}

function labelCompletion(element: Element, at: Place): Completion | undefined {
  const target = attributeOf(element, 'for');
  if (!at.bound || !target?.value) return undefined;
  const attributes = [fixed(' for="'), ...print(targetCode(element, target, at.bound, at)), fixed('"')];
  return { dropped: new Set([target]), attributes };
}

/** The id that a label points to, escaped. */
function targetCode(label: Element, target: Attribute, bound: Name, at: Place): Code {
  const name = valueCode(target.value ?? []);
  const own = at.whole.ownIds.ofLabels.get(label);
  if (own) return js`${runtime('labelFor')}(${bound}, ${name}, ${argumentCode(own)})`;
  if (fixedValue(target) === undefined) return js`${runtime('labelFor')}(${bound}, ${name})`;
  const site = constant('label', ++at.whole.count.names);
  at.whole.hoisted.push({ name: site, value: js`${runtime('fieldSite')}(${name})` });
  return js`${bound}.targetOf(${site})`;
}

/** An option that the author wrote inside a bound `<select>`. */
function optionCompletion(element: Element, at: Place): Completion | undefined {
  if (!at.select || attributeOf(element, 'selected')) return undefined;
  const value = attributeOf(element, 'value');
  const text = element.children.map((child) => {
    if (child.kind === 'substitution') return js`${runtime('plain')}(${child.expression})`;
    return js`${literal(child.kind === 'text' ? decodeHTMLAttribute(child.text) : '')}`;
  });
  // Without a value an option’s text counts, its whitespace stripped and collapsed (HTML §4.10.10).
  const submitted = value ? valueCode(value.value ?? []) : js`(${sum(text)}).trim().replace(/\\s+/g, ' ')`;
  return { attributes: print(js`(${at.select}.isChosen(String(${submitted})) ? ' selected' : '')`) };
}

/** The fixed keyword of an attribute; `undefined` where it is missing or has a substitution. */
function keywordOf(attribute: Attribute | undefined): string | undefined {
  const text = fixedValue(attribute);
  return text === undefined ? undefined : keyword(text);
}
