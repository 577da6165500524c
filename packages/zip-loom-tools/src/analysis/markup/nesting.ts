/** Elements that the parser of browsers would put somewhere else (HTML §13.2.6.4). */
import { placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import {
  clausesOf,
  type Element,
  isCallName,
  nameSpan,
  type TemplateNode,
  type TemplateTree,
} from 'zip-loom/internal/language';
import { markupDiagnostic } from './diagnostics.ts';

const words = (text: string): ReadonlySet<string> => new Set(text.split(' '));

/** What may be right inside a part of a table; the rest is put before the table (§13.2.6.4.9 and after). */
const insideTables: Readonly<Record<string, ReadonlySet<string>>> = {
  table: words('caption colgroup col thead tbody tfoot tr td th style script template form input'),
  thead: words('tr td th style script template form input'),
  tbody: words('tr td th style script template form input'),
  tfoot: words('tr td th style script template form input'),
  tr: words('td th style script template form input'),
  colgroup: words('col template'),
};

/** Parts of tables, and what each may be in: elsewhere their tags are passed over (§13.2.6.4.7). */
const tableParts: Readonly<Record<string, ReadonlySet<string>>> = {
  caption: words('table'),
  colgroup: words('table'),
  col: words('table colgroup'),
  thead: words('table'),
  tbody: words('table'),
  tfoot: words('table'),
  tr: words('table thead tbody tfoot'),
  td: words('table thead tbody tfoot tr'),
  th: words('table thead tbody tfoot tr'),
};

/** Elements that are never within one of the same name, however deep. */
const never = words('form a button');

/** What is in one of these begins anew (§13.2.4.2 and §13.2.4.3). */
const scopes = words('td th caption object template');

const headings = words('h1 h2 h3 h4 h5 h6');

export function misplacedElements({ file, source, children }: TemplateTree): TemplateDiagnostic[] {
  const found: TemplateDiagnostic[] = [];
  look(children, []);
  return found;

  /** @param around the elements around, the outermost first; `undefined` for what nobody knows yet */
  function look(nodes: readonly TemplateNode[], around: ReadonlyArray<string | undefined>): void {
    nodes.forEach((node, at) => {
      if (node.kind === 'verbatim' && /^<\/p\s*>$/i.test(source.slice(node.start, node.end))) strayEnd(nodes, at);
      if (node.kind !== 'element') return;
      if (node.namespace === 'html') judge(node, around);
      look(node.children, within(node, around));
    });
  }

  function judge(element: Element, around: ReadonlyArray<string | undefined>): void {
    const { name } = element;
    const parent = around.at(-1);
    if (parent === undefined || isTransparent(element) || isCallName(name)) return;
    const allowed = insideTables[parent];
    const homes = tableParts[name];
    if (allowed && !allowed.has(name)) report(element, parent, `Put it before the table, or into a cell.`);
    else if (homes && !homes.has(parent))
      report(element, parent, `It belongs into ${[...homes].map((home) => `<${home}>`).join(' or ')}.`);
    else if (headings.has(name) && headings.has(parent)) report(element, parent, `Close the <${parent}> before it.`);
    else if (never.has(name) && isWithin(name, around))
      report(element, name, `One <${name}> cannot be in another: put them beside each other.`);
  }

  function report(element: Element, parent: string, instead: string): void {
    found.push(
      placed(markupDiagnostic('misplaced-element', { child: element.name, parent, instead }), file, nameSpan(element)),
    );
  }

  /** An end tag of a paragraph that has ended already: the element after it is what ended it. */
  function strayEnd(nodes: readonly TemplateNode[], at: number): void {
    const paragraph = nodes.findLastIndex(
      (node, index) => index < at && node.kind === 'element' && node.name === 'p' && !node.endTag,
    );
    const breaker = nodes.find((node, index): node is Element => index > paragraph && node.kind === 'element');
    if (paragraph !== -1 && breaker && breaker.start < nodes[at]!.start)
      report(breaker, 'p', 'Close the <p> before it, or make the <p> a <div>.');
  }
}

function within(element: Element, around: ReadonlyArray<string | undefined>): ReadonlyArray<string | undefined> {
  if (isTransparent(element)) return around;
  // What is around the content of a call, the template that is called decides.
  if (isCallName(element.name) || element.namespace !== 'html') return [...around, undefined];
  if (element.name === 'template') return [];
  return [...around, element.name];
}

/** A group or a slot: what is in it stands where it stands. */
function isTransparent(element: Element): boolean {
  return element.name === 'slot' || (element.name === 'template' && clausesOf(element).length > 0);
}

function isWithin(name: string, around: ReadonlyArray<string | undefined>): boolean {
  for (const one of around.toReversed()) {
    if (one === name) return true;
    if (one === undefined || (name !== 'form' && scopes.has(one))) return false;
  }
  return false;
}
