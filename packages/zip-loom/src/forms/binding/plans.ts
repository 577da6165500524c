/**
 * What a form works out once for a control that is in a template with fixed attributes: all but its value. It is kept with
 * the shape of the form, so that a definition that changes begins anew.
 */
import { type CompletedControl, type ControlSite, escapeText } from '../../kernel/index.ts';
import { type Path, valueAt } from '../schema/paths.ts';
import type { Choice, Group, Shape, Value } from '../schema/shape.ts';
import { completeControl, textareaContent, valueText } from './controls.ts';

/** What is kept for one shape. */
export interface Kept {
  /** Ids of controls by name. */
  readonly ids: Map<string, string>;
  /** Missing for a control that has no plan. */
  readonly plans: Map<ControlSite, Plan | undefined>;
  readonly holdsFiles: boolean;
  /** Names that were looked up and found. */
  readonly names: Set<string>;
}

/** What a label points to. */
export class Target {
  /** What it was worked out for: a label may be in forms of several definitions. */
  readonly kept: Kept;
  /** Escaped. */
  readonly id: string;

  constructor(kept: Kept, id: string) {
    this.kept = kept;
    this.id = id;
  }
}

/** How a control shows a text. */
type Showing =
  /** As its `value` or its content; the same otherwise. */
  | { by: 'text'; isContent: boolean; empty: CompletedControl; start: string }
  /** Each text that it can show gives another state. */
  | { by: 'state'; complete: (text: string) => CompletedControl };

/** A control but for its value. */
export class Plan {
  /** What it was worked out for. */
  readonly kept: Kept;
  private readonly path: Path;
  /** The name of the field, where the path is no longer and no object has such a property by itself. */
  private readonly field: string | undefined;
  private readonly shape: Value;
  private readonly showing: Showing;

  constructor(kept: Kept, path: Path, shape: Value, showing: Showing) {
    this.kept = kept;
    this.path = path;
    const [first] = path;
    this.field = path.length === 1 && typeof first === 'string' && !(first in Object.prototype) ? first : undefined;
    this.shape = shape;
    this.showing = showing;
  }

  /**
   * The control with the value of a model.
   * @param record the model where it is a plain object
   */
  fill(model: unknown, record: Readonly<Record<string, unknown>> | undefined): CompletedControl {
    const { shape, field, showing } = this;
    const value = record && field !== undefined ? record[field] : valueAt(model, this.path);
    const text = valueText(value ?? shape.fallback, shape.kind);
    if (showing.by === 'state') return showing.complete(text);
    const { empty } = showing;
    if (text === '') return empty;
    const { before, attributes, content, choices, isChosen } = empty;
    if (showing.isContent) return { before, attributes, content: textareaContent(text), choices, isChosen };
    return { before, attributes: `${showing.start}${escapeText(text)}"`, content, choices, isChosen };
  }
}

const keptByShape = new WeakMap<Group, Map<string, Kept>>();

/** @param locale for a form whose controls differ by it, else empty */
export function keptFor(shape: Group, locale: string): Kept {
  const byLocale = keptByShape.get(shape) ?? new Map<string, Kept>();
  keptByShape.set(shape, byLocale);
  let kept = byLocale.get(locale);
  if (!kept) {
    kept = { ids: new Map(), plans: new Map(), holdsFiles: holdsFile(shape), names: new Set() };
    byLocale.set(locale, kept);
  }
  return kept;
}

/** What a plan is made from. */
export interface PlannedControl {
  site: ControlSite;
  id: string;
  path: Path;
  shape: Shape;
  choices: readonly Choice[] | undefined;
}

/** The plan that a control was shown by last, where it is still the one. */
export function planAt(kept: Kept, { kept: last }: ControlSite): Plan | undefined {
  return last instanceof Plan && last.kept === kept ? last : undefined;
}

/** The plan for a control as it is kept, worked out when it is first needed. */
export function keptPlan(kept: Kept, site: ControlSite, control: () => PlannedControl): Plan | undefined {
  const { plans } = kept;
  if (!plans.has(site)) plans.set(site, planFor(kept, control()));
  const plan = plans.get(site);
  site.kept = plan;
  return plan;
}

/** The plan for a control, or `undefined` where more than one value decides what it shows. */
function planFor(kept: Kept, { site, id, path, shape, choices }: PlannedControl): Plan | undefined {
  if (shape.shape !== 'value') return undefined;
  const complete = (text: string) => {
    const chosen = new Set(text === '' ? [] : [text]);
    return completeControl(site, { id, shape, text, chosen, choices, invalid: false, describedBy: [] });
  };
  const showing = showsText(site, complete) ?? showsStates(shape, choices, complete);
  return showing && new Plan(kept, path, shape, showing);
}

/** For a control that shows its text and is the same otherwise; `undefined` for any other. */
function showsText({ element }: ControlSite, complete: (text: string) => CompletedControl): Showing | undefined {
  const empty = complete('');
  const start = `${empty.attributes} value="`;
  const isContent = element === 'textarea';
  const isPlain = (text: string) => complete(text).attributes === `${start}${text}"`;
  if (!isContent && (element === 'select' || !isPlain('0') || !isPlain('00:00:01'))) return undefined;
  return { by: 'text', isContent, empty, start };
}

/** So many states of one control are kept: those of boxes, and some of long lists. */
const mostStates = 12;

/** A control with choices: each of them gives another state. `undefined` for any other control, whose text is not kept. */
function showsStates(
  { kind }: Value,
  choices: readonly Choice[] | undefined,
  complete: (text: string) => CompletedControl,
): Showing | undefined {
  const texts = new Set(kind === 'boolean' ? ['true', 'false'] : choices?.map(({ value }) => value));
  if (texts.size === 0) return undefined;
  texts.add('');
  const states = new Map<string, CompletedControl>();
  const remembered = (text: string) => {
    const known = states.get(text);
    if (known) return known;
    const completed = complete(text);
    if (texts.has(text) && states.size < mostStates) states.set(text, completed);
    return completed;
  };
  return { by: 'state', complete: remembered };
}

function holdsFile(shape: Shape): boolean {
  switch (shape.shape) {
    case 'group':
      return [...shape.fields.values()].some(holdsFile);
    case 'list':
      return holdsFile(shape.item);
    case 'value':
      return shape.kind === 'file';
  }
}
