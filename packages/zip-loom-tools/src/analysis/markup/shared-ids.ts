/**
 * Ids that stand several times in one page because several templates of it have them, or because one of them is called several times.
 * Told is only what is certain: what a condition decides about, in any of them, may never be there together.
 */
import { calledBy, isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import { placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import type { Attribute } from 'zip-loom/internal/language';
import { eachElement } from './alternatives.ts';
import { markupDiagnostic } from './diagnostics.ts';
import { isInert, writtenId } from './ids.ts';

/** An id of a page, and the template that has it. */
interface Held {
  id: string;
  attribute: Attribute;
  template: Template;
}

/** What a template certainly has once, and what it has in a list. */
interface Holding {
  once: readonly Held[];
  repeated: readonly Held[];
}

const nothing: Holding = { once: [], repeated: [] };

export function sharedIds(set: TemplateSet): TemplateDiagnostic[] {
  const holdings = new Map<Template, Holding>();
  const found = new Map<Attribute, TemplateDiagnostic>();
  for (const page of set.pages.values()) {
    const layout = set.layoutOf(page);
    const { once, repeated } = joined([...(layout ? [holdingOf(layout)] : []), holdingOf(page)]);
    const seen = new Map<string, Held>();
    for (const held of once) {
      const earlier = seen.get(held.id);
      // Twice in one template is told for that template.
      if (earlier && (earlier.template !== held.template || earlier.attribute === held.attribute))
        tell(held, page, earlier.template);
      seen.set(held.id, held);
    }
    for (const held of repeated) tell(held, page, undefined);
  }
  return [...found.values()];

  function tell({ id, attribute, template }: Held, page: Template, other: Template | undefined): void {
    if (isBuiltIn(template) || found.has(attribute)) return;
    const facts = { id, page: page.name, other: other === template ? undefined : other?.tree.file };
    const diagnostic = markupDiagnostic('shared-id', { ...facts, isListed: other === undefined });
    found.set(attribute, placed(diagnostic, template.tree.file, attribute));
  }

  function holdingOf(template: Template): Holding {
    const known = holdings.get(template);
    if (known) return known;
    // A template that calls itself ends somewhere; nobody knows after how many times.
    holdings.set(template, nothing);
    const holding = set.broken.has(template.tree) ? nothing : worked(template);
    holdings.set(template, holding);
    return holding;
  }

  function worked(template: Template): Holding {
    const parts: Holding[] = [];
    eachElement(template.body, template.tree.source, (element, { isCertain, isRepeated }) => {
      const own = writtenId(element);
      if (own && isCertain) parts.push({ once: [{ ...own, template }], repeated: [] });
      const called = calledBy(element, template, set);
      if (called && (isCertain || isRepeated)) parts.push(callOf(holdingOf(called), isRepeated));
      return isInert(element) ? 'skip' : undefined;
    });
    return joined(parts);
  }
}

function callOf({ once, repeated }: Holding, isRepeated: boolean): Holding {
  return isRepeated ? { once: [], repeated: [...once, ...repeated] } : { once, repeated };
}

function joined(parts: readonly Holding[]): Holding {
  return { once: parts.flatMap(({ once }) => once), repeated: parts.flatMap(({ repeated }) => repeated) };
}
