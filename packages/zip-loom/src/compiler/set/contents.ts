/** What is in the body of a template, found in one walk: what other templates, and the program, ask about it. */
import {
  attributeOf,
  type Clause,
  type ClauseKind,
  clauseOf,
  clausesOf,
  type Element,
  fixedValue,
  isCallName,
  keyword,
  type TemplateNode,
  walk,
} from '../../language/index.ts';
import { sendingAttributes } from '../../protocol/index.ts';
import { belongsToBrowser, isSlot, slotName } from './slots.ts';

/** Each list has everything once, in the order of the source. */
export interface Contents {
  /** Kinds of clauses on its elements. */
  clauses: readonly ClauseKind[];
  /** Its regions. */
  regions: ReadonlyArray<Extract<Clause, { kind: 'region' }>>;
  /** Names of its slots. */
  slots: readonly string[];
  /** Names of those of its slots that are in a `<title>`, where there is only text. */
  titleSlots: readonly string[];
  /** Names of elements that call templates, where there are such templates. */
  calls: readonly string[];
  /** Elements that are in a slot of the layout instead; nothing inside one of them is listed. */
  placed: readonly Element[];
  /** True if an attribute in it makes the client send something by itself. */
  sends: boolean;
  /** Whether a form in it posts. */
  postsForm: boolean;
  /** Whether a file field in it belongs to a form that is elsewhere. */
  hasStrayFile: boolean;
}

/** Reads the body of one template. */
export function contentsOf(body: readonly TemplateNode[], isBrowserElement: (name: string) => boolean): Contents {
  const clauses = new Set<ClauseKind>();
  const regions: Array<Extract<Clause, { kind: 'region' }>> = [];
  const slots = new Set<string>();
  const titleSlots = new Set<string>();
  const calls = new Set<string>();
  const placed: Element[] = [];
  let sends = false;
  let postsForm = false;
  let hasStrayFile = false;
  let inForm = 0;
  // How deep the walk is in markup whose slots are the browser’s, and in elements that are placed elsewhere.
  let inBrowser = 0;
  let inPlaced = 0;
  let inTitle = 0;
  const isBrowsers = (element: Element) => belongsToBrowser(element, isBrowserElement);
  const isPlaced = (element: Element) => clauseOf(element, 'into') !== undefined;
  walk(body, {
    element(element) {
      for (const clause of clausesOf(element)) {
        clauses.add(clause.kind);
        if (clause.kind === 'region') regions.push(clause);
      }
      if (isCallName(element.name)) calls.add(element.name);
      if (inBrowser === 0 && isSlot(element) && !clauseOf(element, 'inherited')) {
        slots.add(slotName(element));
        if (inTitle > 0) titleSlots.add(slotName(element));
      }
      if (isTitle(element)) inTitle++;
      sends ||= sendingAttributes.some((name) => attributeOf(element, name) !== undefined);
      postsForm ||= isPostingForm(element);
      if (element.name === 'form') inForm++;
      if (isFileField(element)) hasStrayFile ||= inForm === 0 || attributeOf(element, 'form') !== undefined;
      if (isBrowsers(element)) inBrowser++;
      if (isPlaced(element) && inPlaced++ === 0) placed.push(element);
      return undefined;
    },
    leave(element) {
      if (element.name === 'form') inForm--;
      if (isBrowsers(element)) inBrowser--;
      if (isPlaced(element)) inPlaced--;
      if (isTitle(element)) inTitle--;
    },
  });
  return {
    clauses: [...clauses],
    regions,
    slots: [...slots],
    titleSlots: [...titleSlots],
    calls: [...calls],
    placed,
    sends,
    postsForm,
    hasStrayFile,
  };
}

function isTitle({ name, namespace }: Element): boolean {
  return name === 'title' && namespace === 'html';
}

/** A field for files, by what the template says itself. */
export function isFileField(element: Element): boolean {
  return element.name === 'input' && keyword(fixedValue(attributeOf(element, 'type')) ?? '') === 'file';
}

function isPostingForm(element: Element): boolean {
  const method = element.name === 'form' ? attributeOf(element, 'method') : undefined;
  if (!method) return false;
  return !['', 'get', 'dialog'].includes(keyword(fixedValue(method) ?? 'other'));
}
