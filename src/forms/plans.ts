/**
 * What a form works out once for a control that stands in a template with fixed attributes: all but its value. It is kept with
 * the shape of the form, so that a definition that changes begins anew.
 */
import { type CompletedControl, type ControlSite, escapeText } from '../runtime/index.ts';
import { completeControl, textareaContent } from './controls.ts';
import { type Path, valueAt } from './paths.ts';
import type { Group, Shape, Value } from './shape.ts';
import { valueText } from './value-text.ts';

/** What is kept for one shape. */
export interface Kept {
  /** Ids of controls by name. */
  readonly ids: Map<string, string>;
  /** Missing for a control that has no plan. */
  readonly plans: Map<ControlSite, Plan | undefined>;
  readonly holdsFiles: boolean;
}

/** What a label points to. */
export class Target {
  /** What it was worked out for: a label may stand in forms of several definitions. */
  readonly kept: Kept;
  /** Escaped. */
  readonly id: string;

  constructor(kept: Kept, id: string) {
    this.kept = kept;
    this.id = id;
  }
}

/** A control but for its value. */
export class Plan {
  /** What it was worked out for. */
  readonly kept: Kept;
  private readonly path: Path;
  /** The name of the field, where the path is no longer and no object has such a property by itself. */
  private readonly field: string | undefined;
  private readonly shape: Value;
  /** How it stands without a value. */
  private readonly empty: CompletedControl;
  private readonly start: string;
  private readonly isTextarea: boolean;

  constructor(kept: Kept, path: Path, shape: Value, empty: CompletedControl, isTextarea: boolean) {
    this.kept = kept;
    this.path = path;
    const [first] = path;
    this.field = path.length === 1 && typeof first === 'string' && !(first in Object.prototype) ? first : undefined;
    this.shape = shape;
    this.empty = empty;
    this.start = `${empty.attributes} value="`;
    this.isTextarea = isTextarea;
  }

  /**
   * The control with the value of a model.
   * @param record the model where it is a plain object
   */
  fill(model: unknown, record: Readonly<Record<string, unknown>> | undefined): CompletedControl {
    const { empty, shape, field } = this;
    const value = record && field !== undefined ? record[field] : valueAt(model, this.path);
    const text = valueText(value ?? shape.fallback, shape.kind);
    if (text === '') return empty;
    const { before, attributes, content, isChosen } = empty;
    if (this.isTextarea) return { before, attributes, content: textareaContent(text), isChosen };
    return { before, attributes: `${this.start}${escapeText(text)}"`, content, isChosen };
  }
}

const keptByShape = new WeakMap<Group, Kept>();

export function keptFor(shape: Group): Kept {
  let kept = keptByShape.get(shape);
  if (!kept) {
    kept = { ids: new Map(), plans: new Map(), holdsFiles: holdsFile(shape) };
    keptByShape.set(shape, kept);
  }
  return kept;
}

/** The plan for a control, or `undefined` where more than its value depends on what the form shows. */
export function planFor(kept: Kept, site: ControlSite, id: string, path: Path, shape: Shape): Plan | undefined {
  if (shape.shape !== 'value' || site.element === 'select' || site.written['value'] !== undefined) return undefined;
  const state = { id, shape, text: '', chosen: new Set<string>(), choices: undefined, invalid: false, describedBy: [] };
  const empty = completeControl(site, state);
  const probe = completeControl(site, { ...state, text: '0' });
  const isTextarea = site.element === 'textarea';
  const showsValue = probe.attributes === `${empty.attributes} value="0"`;
  if (!isTextarea && !showsValue) return undefined;
  return new Plan(kept, path, shape, empty, isTextarea);
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
