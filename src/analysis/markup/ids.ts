/** Ids: each once in a page, and what points at one finds it. */
import { groupSiblings, isBuiltIn, type TemplateSet } from '../../compiler/index.ts';
import { nearest, placed, type Span, type TemplateDiagnostic } from '../../diagnostics/index.ts';
import {
  type Attribute,
  attributeOf,
  clauseOf,
  type Element,
  type Expression,
  fixedValue,
  isCallName,
  type TemplateNode,
  type TemplateTree,
  walk,
} from '../../language/index.ts';
import { markupDiagnostic } from './diagnostics.ts';

/** Attributes whose value is an id, or several (HTML, WAI-ARIA 1.2 §6). */
const references = new Set(
  'for list form popovertarget commandfor aria-activedescendant aria-controls aria-describedby aria-details aria-errormessage aria-flowto aria-labelledby aria-owns'.split(
    ' ',
  ),
);

/** An id as it is written, and which alternatives it is in: of two that exclude each other only one is in the page. */
interface Written {
  id: string;
  span: Span;
  branches: ReadonlyMap<object, number>;
}

/** Ids that a template has twice, or in an element that is repeated. */
export function repeatedIds({ file, source, lines, children }: TemplateTree): TemplateDiagnostic[] {
  const found: TemplateDiagnostic[] = [];
  const written: Written[] = [];
  look(children, new Map(), false);
  return found;

  function look(nodes: readonly TemplateNode[], branches: ReadonlyMap<object, number>, isRepeated: boolean): void {
    for (const sibling of groupSiblings(nodes, source, () => {})) {
      if (sibling.kind === 'node') {
        if (sibling.node.kind === 'element') take(sibling.node, branches, isRepeated);
        continue;
      }
      sibling.branches.forEach(({ element, meanwhile, failed }, at) => {
        [element, meanwhile?.element, failed?.element].forEach((one, which) => {
          // Alternatives, and what is there while something waits, are never there together.
          if (one) take(one, new Map([...branches, [sibling, at * 3 + which]]), isRepeated);
        });
      });
    }
  }

  function take(element: Element, branches: ReadonlyMap<object, number>, isAround: boolean): void {
    const isRepeated = isAround || clauseOf(element, 'for') !== undefined;
    const attribute = attributeOf(element, 'id');
    const id = fixedValue(attribute);
    // The arguments of a call are the business of what is called.
    if (attribute && id && !isCallName(element.name)) note(attribute, id, branches, isRepeated);
    if (element.name === 'template' && !element.items.some(({ kind }) => kind !== 'attribute')) return;
    look(element.children, branches, isRepeated);
  }

  function note(attribute: Attribute, id: string, branches: ReadonlyMap<object, number>, isRepeated: boolean): void {
    const earlier = written.find((one) => one.id === id && !excludes(one.branches, branches));
    const { line } = lines.at((earlier?.span ?? attribute).start);
    if (isRepeated || earlier)
      found.push(placed(markupDiagnostic('repeated-id', { id, line, isRepeated }), file, attribute));
    written.push({ id, span: attribute, branches });
  }
}

function excludes(one: ReadonlyMap<object, number>, other: ReadonlyMap<object, number>): boolean {
  return [...one].some(([chain, at]) => other.has(chain) && other.get(chain) !== at);
}

/** What points at an id that no template of the project has. Where ids are made of values, any that may be meant counts. */
export function lostReferences(set: TemplateSet): TemplateDiagnostic[] {
  const fixed = new Set<string>();
  const patterns: RegExp[] = [];
  const isLibrary = (tree: TemplateTree) => set.files.get(tree)!.templates.some(isBuiltIn);
  // What falls to a (takes … ...rest) stands at calls.
  const rests = new Set(
    set.templates.flatMap(({ parameters }) => parameters.filter(({ kind }) => kind === 'rest').map(({ name }) => name)),
  );
  let mayBeAny = false;
  for (const [tree] of set.files)
    walk(tree.children, {
      element: (element) => {
        const mayHaveId = (item: Element['items'][number]) =>
          item.kind === 'spread' && !rests.has(item.expression.code) && !isWithoutId(item.expression);
        if (!isLibrary(tree) && element.items.some(mayHaveId)) mayBeAny = true;
        // An argument may become an id in what is called.
        for (const item of element.items) if (item.kind === 'attribute') noteId(item, isCallName(element.name));
        return undefined;
      },
    });
  if (mayBeAny) return [];
  const found: TemplateDiagnostic[] = [];
  for (const [tree] of set.files) {
    if (isLibrary(tree)) continue;
    walk(tree.children, {
      element: (element) => {
        // A bound form makes ids of its own.
        if (clauseOf(element, 'bind')) return 'skip';
        if (!isCallName(element.name))
          for (const item of element.items) if (item.kind === 'attribute') judge(item, tree);
        return undefined;
      },
    });
  }
  return found;

  function noteId(attribute: Attribute, isCall: boolean): void {
    if (attribute.name !== 'id' && !isCall) return;
    const value = fixedValue(attribute);
    if (value !== undefined) fixed.add(value);
    else if (attribute.name === 'id')
      patterns.push(
        new RegExp(
          `^${attribute.value!.map((part) => (part.kind === 'text' ? escaped(part.text) : '.*')).join('')}$`,
          's',
        ),
      );
  }

  function judge(attribute: Attribute, { file }: TemplateTree): void {
    if (!references.has(attribute.name)) return;
    for (const id of (fixedValue(attribute) ?? '').split(/\s+/)) {
      if (id === '' || fixed.has(id) || patterns.some((pattern) => pattern.test(id))) continue;
      const facts = { attribute: attribute.name, id, nearest: nearest(id, fixed) };
      found.push(placed(markupDiagnostic('lost-reference', facts), file, attribute));
    }
  }
}

/** Whether a record is written out, and has no id. */
function isWithoutId({ syntax }: Expression): boolean {
  return (
    syntax.type === 'ObjectExpression' &&
    syntax.properties.every(
      (one) => one.type === 'Property' && !one.computed && one.key.type === 'Identifier' && one.key.name !== 'id',
    )
  );
}

function escaped(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
}
