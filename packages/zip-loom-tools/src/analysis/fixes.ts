/** What is sure to be meant, as changes of the text: what `--fix` writes, and what an editor offers. */
import { type Compilation, calledBy, isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import type { Near, Span, TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { type Element, elementsOf, endNameSpan, nameSpan, type TemplateTree } from 'zip-loom/internal/language';
import { type Edit, edited } from './edit.ts';

/** The changes of one file that put something right, in the order of the text. */
export interface Fix {
  diagnostic: TemplateDiagnostic;
  edits: readonly Edit[];
}

/**
 * The fix for each diagnostic that has one: a name that is one letter away from the only one that is near, `alt=""` for decoration,
 * `/>` for a call that cannot have content.
 */
export function fixesOf(diagnostics: readonly TemplateDiagnostic[], compilation: Compilation): Fix[] {
  return diagnostics.flatMap((diagnostic) => {
    const tree = compilation.treeOf(diagnostic.file);
    const edits = tree ? editsOf(diagnostic, tree, compilation.set) : [];
    return edits.length === 0 ? [] : [{ diagnostic, edits }];
  });
}

/**
 * A text with as many fixes as fit together: of two that change the same place, the first.
 * @returns the new text, and those fixes that are in it
 */
export function withFixes(source: string, fixes: readonly Fix[]): { text: string; done: Fix[] } {
  const done: Fix[] = [];
  const edits: Edit[] = [];
  for (const fix of fixes) {
    if (fix.edits.some((edit) => edits.some((other) => edit.start <= other.end && other.start <= edit.end))) continue;
    edits.push(...fix.edits);
    done.push(fix);
  }
  return { text: edited(source, edits), done };
}

function editsOf(diagnostic: TemplateDiagnostic, tree: TemplateTree, set: TemplateSet): Edit[] {
  const { code, span } = diagnostic;
  const facts = diagnostic.facts as { nearest?: Near; hasRole?: boolean };
  switch (code) {
    case 'missing-alt':
      return facts.hasRole ? [{ start: span.end, end: span.end, text: ' alt=""' }] : [];
    case 'missing-end-tag':
    case 'invalid-nesting':
      return endsOfCalls(diagnostic, tree, set);
    default:
      return facts.nearest?.isSure ? renaming(diagnostic, facts.nearest.name, tree) : [];
  }
}

/** Where facts have the word that is wrong, by the code; `name` in all others. */
const wrongWords: Readonly<Record<string, string>> = {
  'lost-link': 'path',
  'lost-reference': 'id',
  'missing-asset': 'path',
};

function renaming({ code, facts, span }: TemplateDiagnostic, right: string, tree: TemplateTree): Edit[] {
  const { source } = tree;
  // A route with parameters is no path.
  if (code === 'lost-link' && /[:*]/.test(right)) return [];
  const wrong = (facts as Record<string, unknown>)[wrongWords[code] ?? 'name'];
  const written = source.slice(span.start, span.end);
  if (typeof wrong !== 'string') return [];
  const place = /^[\w$-]+$/.test(written) ? span : onlyPlaceOf(wrong, written, span.start);
  if (!place) return [];
  const edit = { start: place.start, end: place.end, text: right };
  return code === 'unknown-template' ? [edit, ...endTagRenaming(span, right, tree)] : [edit];
}

/** The one place of a word in a text; `undefined` where it stands several times. */
function onlyPlaceOf(word: string, text: string, offset: number): Span | undefined {
  const places = [...text.matchAll(/[\w$./-]+/g)].filter(([found]) => found === word);
  const [place] = places;
  if (!place || places.length > 1) return undefined;
  return { start: offset + place.index, end: offset + place.index + word.length };
}

function endTagRenaming(name: Span, right: string, { children }: TemplateTree): Edit[] {
  const element = elementsOf(children).find((one) => nameSpan(one).start === name.start);
  const end = element && endNameSpan(element);
  return end ? [{ ...end, text: right }] : [];
}

/** Calls without an end tag that cannot have content, as far as the diagnostic is about one. */
function endsOfCalls({ code, facts, span }: TemplateDiagnostic, tree: TemplateTree, set: TemplateSet): Edit[] {
  const { open, line } = facts as { open?: string; line?: number };
  const isMeant = (element: Element) =>
    code === 'missing-end-tag'
      ? element.start === span.start
      : element.name === open && tree.lines.at(element.start).line === line && element.end <= span.start;
  const caller = set.files.get(tree)!.templates[0];
  const meant = elementsOf(tree.children).filter((one) => isMeant(one) && !one.endTag && !one.selfClosing);
  const [element] = meant;
  if (meant.length !== 1 || !element || !caller || !isWithoutContent(element, caller, set)) return [];
  const end = element.startTag.end - 1;
  const space = /\s/.test(tree.source[end - 1]!) ? '' : ' ';
  return [{ start: end, end, text: `${space}/` }];
}

function isWithoutContent(element: Element, caller: Template, set: TemplateSet): boolean {
  const called = calledBy(element, caller, set);
  return called !== undefined && !isBuiltIn(called) && !set.broken.has(called.tree) && set.openSlots(called).size === 0;
}
