/**
 * Ids and labels that the author gave to controls of a bound form. Labels that name such a field, and the links of a summary of errors,
 * lead there; the links say what the labels say.
 */
import { decodeHTML, decodeHTMLAttribute } from 'entities';
import {
  type Attribute,
  attributeOf,
  type Clause,
  clausesOf,
  type Element,
  fixedValue,
  type TemplateNode,
  walk,
} from '../../language/index.ts';

export interface OwnIds {
  /** By label. */
  readonly ofLabels: ReadonlyMap<Element, Attribute>;
  /** Ids that are fixed text, by the name of their field. */
  readonly fixed: ReadonlyMap<string, string>;
  /** Labels that are fixed text, by the name of their field without indices. */
  readonly labels: ReadonlyMap<string, string>;
}

/** An element that names a field. */
interface Named {
  element: Element;
  /** The name as it is written. */
  name: string;
  /** What binds the names that it may use: they mean the same to all that share it. */
  scope: Element | undefined;
}

/** Reads the body of a template with bound forms. */
export function ownIdsIn(body: readonly TemplateNode[]): OwnIds {
  const labels: Named[] = [];
  const controls: Array<Named & { id: Attribute }> = [];
  const texts = new Map<string, string>();
  const scopes: Array<Element | undefined> = [undefined];
  walk(body, {
    element(element) {
      if (clausesOf(element).some(bindsNames)) scopes.push(element);
      const scope = scopes.at(-1);
      const label = labelIn(element);
      if (label && !texts.has(label[0])) texts.set(...label);
      if (element.name === 'label') {
        const target = attributeOf(element, 'for');
        if (target) labels.push({ element, name: writtenValue(target), scope });
      } else if (controlNames.has(element.name)) {
        const [name, id] = [attributeOf(element, 'name'), attributeOf(element, 'id')];
        // Of boxes each has a label of its own.
        if (name && id && !isBox(element)) controls.push({ element, name: writtenValue(name), scope, id });
      }
      return undefined;
    },
    leave(element) {
      if (scopes.at(-1) === element) scopes.pop();
    },
  });
  const ofLabels = new Map<Element, Attribute>();
  for (const { element, name, scope } of labels) {
    const same = controls.filter((control) => control.name === name);
    const found = same.find((one) => one.scope === scope) ?? same.find(({ id }) => fixedValue(id) !== undefined);
    if (found) ofLabels.set(element, found.id);
  }
  const fixed = controls.flatMap(({ element, id }): Array<[string, string]> => {
    const [name, text] = [fixedValue(attributeOf(element, 'name')), fixedValue(id)];
    return name === undefined || text === undefined ? [] : [[name, text]];
  });
  return { ofLabels, fixed: new Map(fixed), labels: texts };
}

/** A text label with its field: `<label for>`, one around a control, or that of a call of `<form-field>`. */
function labelIn(element: Element): [name: string, label: string] | undefined {
  if (element.name === 'form-field') {
    const [name, label] = [attributeOf(element, 'name'), attributeOf(element, 'label')];
    const text = label && fixedValue(label);
    return name && text ? [patternIn(name), decodeHTMLAttribute(text)] : undefined;
  }
  if (element.name !== 'label') return undefined;
  const controls = element.children.filter(isControl);
  const text = element.children
    .filter((child) => !isControl(child))
    .map((child) => (child.kind === 'text' ? child.text : '\0'))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
  const [control, another] = controls;
  const name =
    attributeOf(element, 'for') ?? (control && !another && !isBox(control) ? attributeOf(control, 'name') : undefined);
  return name && text !== '' && !text.includes('\0') ? [patternIn(name), decodeHTML(text)] : undefined;
}

function isControl(node: TemplateNode): node is Element {
  return node.kind === 'element' && controlNames.has(node.name);
}

/** The name without indices, whatever they are: `crew[${i}].name` is `crew[].name`. */
function patternIn(name: Attribute): string {
  return writtenValue(name).replace(/\[[^\][]*\]/g, (index) => (/^\[(?:\d+|\$\{.*\})\]$/s.test(index) ? '[]' : index));
}

const controlNames: ReadonlySet<string> = new Set(['input', 'select', 'textarea']);

function bindsNames({ kind }: Clause): boolean {
  return kind === 'for' || kind === 'let' || kind === 'await' || kind === 'catch' || kind === 'takes';
}

function isBox(element: Element): boolean {
  const type = fixedValue(attributeOf(element, 'type'))?.toLowerCase();
  return type === 'radio' || (type === 'checkbox' && attributeOf(element, 'value') !== undefined);
}

function writtenValue({ value }: Attribute): string {
  return (value ?? []).map((part) => (part.kind === 'text' ? part.text : `\${${part.expression.code}}`)).join('');
}
