/**
 * Ids that the author gave to controls of a bound form. Labels that name such a field, and the links of a summary of errors, lead there.
 */
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
  const scopes: Array<Element | undefined> = [undefined];
  walk(body, {
    element(element) {
      if (clausesOf(element).some(bindsNames)) scopes.push(element);
      const scope = scopes.at(-1);
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
  return { ofLabels, fixed: new Map(fixed) };
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
