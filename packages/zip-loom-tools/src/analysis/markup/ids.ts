/** Ids: each once in a page, and what points at one finds it. */
import { isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import { nearest, placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
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
} from 'zip-loom/internal/language';
import { eachElement, excludes, type Whereabouts } from './alternatives.ts';
import { markupDiagnostic } from './diagnostics.ts';

/** Attributes whose value is an id, or several (HTML, WAI-ARIA 1.2 §6). */
const references = new Set(
  'for list form popovertarget commandfor aria-activedescendant aria-controls aria-describedby aria-details aria-errormessage aria-flowto aria-labelledby aria-owns'.split(
    ' ',
  ),
);

/** An id as it is written, and which alternatives it is in. */
interface Written extends Whereabouts {
  id: string;
  attribute: Attribute;
}

/** Ids that a template has twice, or in an element that is repeated. */
export function repeatedIds({ tree, body }: Template): TemplateDiagnostic[] {
  const found: TemplateDiagnostic[] = [];
  const earlier: Written[] = [];
  for (const one of idsIn(body, tree.source)) {
    const { id, attribute, branches, isRepeated } = one;
    const other = earlier.find((it) => it.id === id && !excludes(it.branches, branches));
    const { line } = tree.lines.at((other?.attribute ?? attribute).start);
    if (isRepeated || other)
      found.push(placed(markupDiagnostic('repeated-id', { id, line, isRepeated }), tree.file, attribute));
    earlier.push(one);
  }
  return found;
}

/** Ids that are written out, on elements that are printed where they stand. */
function idsIn(body: readonly TemplateNode[], source: string): Written[] {
  const written: Written[] = [];
  eachElement(body, source, (element, where) => {
    const id = writtenId(element);
    if (id) written.push({ ...id, ...where });
    return isInert(element) ? 'skip' : undefined;
  });
  return written;
}

/** The id that an element has by its template; the arguments of a call are the business of what is called. */
export function writtenId(element: Element): { id: string; attribute: Attribute } | undefined {
  const attribute = isCallName(element.name) ? undefined : attributeOf(element, 'id');
  const id = fixedValue(attribute);
  return attribute && id ? { id, attribute } : undefined;
}

/** Whether what is in an element is no part of the page yet. */
export function isInert({ name, items }: Element): boolean {
  return name === 'template' && items.every(({ kind }) => kind === 'attribute');
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
