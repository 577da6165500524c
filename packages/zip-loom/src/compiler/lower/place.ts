/** Where the lowering of a template is: what holds for the whole template, and what holds at one place of it. */
import type { Report } from '../../diagnostics/index.ts';
import type { Attribute, Element } from '../../language/index.ts';
import type { Code, Name } from '../code.ts';
import type { Part } from '../parts.ts';
import type { Template } from '../set/template.ts';
import type { TemplateSet } from '../set/template-set.ts';
import type { OwnIds } from './own-ids.ts';
import type { SourceCollector } from './source-collector.ts';

/** What holds for a whole template while it is lowered, and what is collected of it. */
export interface Lowering {
  set: TemplateSet;
  template: Template;
  /** Templates that, directly or through others, call themselves. */
  recursive: ReadonlySet<Template>;
  report: Report;
  /** URL schemes that may be before values. */
  schemes: ReadonlySet<string>;
  /** Files of the project → their URLs; missing where it has none. */
  assets: ReadonlyMap<string, string> | undefined;
  /** Where the site is mounted: `/app`, or '' for the root. */
  base: string;
  /** In development: whether an `undefined` in text is noted with its place. */
  notesUndefined: boolean;
  /** Whether what is printed has marks that tell the lines of the template. */
  marksLines: boolean;
  /** Elements whose `slot` names a slot of ours. */
  fillElements: Set<Element>;
  /** Constants that the template makes once for all pages. */
  hoisted: Array<{ name: Name; value: Code }>;
  /** Ids of the author’s own on controls of bound forms. */
  ownIds: OwnIds;
  /** What the template loads and where it leads. */
  sources: SourceCollector;
  /** Counts names that the generated code makes up. */
  count: { names: number };
}

/** One place of a template. Plain data: a deeper place is a copy with other fields. */
export interface Place {
  whole: Lowering;
  /** Inside markup whose slots are the browser’s. */
  inBrowser: boolean;
  /** Inside a fill, where `<slot (inherited)>` has a meaning; notes whether there is one. */
  fill: { showsInherited: boolean } | undefined;
  /** At the start of a template whose blank space was shed. */
  startsLine: boolean;
  /** The form that controls are bound to. */
  bound: Name | undefined;
  /** The element that binds them. */
  boundBy: Element | undefined;
  /** The bound `<select>` around options. */
  select: Name | undefined;
  /** Elements that a clause of theirs completes. */
  completions: ReadonlyMap<Element, Completion>;
}

/** A place where an element is completed by a clause of its, besides what other clauses have done. */
export function withCompletion(at: Place, element: Element, completion: Completion): Place {
  const known = at.completions.get(element);
  const attributes = [...(known?.attributes ?? []), ...(completion.attributes ?? [])];
  return { ...at, completions: new Map([...at.completions, [element, { ...known, ...completion, attributes }]]) };
}

/** What a special element gets besides what is written. */
export interface Completion {
  before?: Part[];
  /** Further attributes, after those that are written. */
  attributes?: Part[];
  /** Whether the start of the tag, up to its name, is printed already. */
  namePrinted?: boolean;
  /** Attributes that are printed by the code instead. */
  dropped?: ReadonlySet<Attribute>;
  /** Parts right after the start tag. */
  start?: Part[];
  /** Parts in place of the content. */
  content?: Part[] | undefined;
  /** Parts after the content, before the end tag. */
  end?: Part[];
  after?: Part[];
  /** What is different inside. */
  inside?: Partial<Place>;
  wrap?(parts: Part[]): Part[];
}
