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

/** A control but for its value. */
export interface Plan {
  path: Path;
  /** The name of the field, where the path is no longer. */
  field: string | undefined;
  shape: Value;
  /** How it stands without a value. */
  empty: CompletedControl;
  /** Whether its value is its content. */
  isTextarea: boolean;
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
export function planFor(site: ControlSite, id: string, path: Path, shape: Shape): Plan | undefined {
  if (shape.shape !== 'value' || site.element === 'select' || site.written['value'] !== undefined) return undefined;
  const state = { id, shape, text: '', chosen: new Set<string>(), choices: undefined, invalid: false, describedBy: [] };
  const empty = completeControl(site, state);
  const probe = completeControl(site, { ...state, text: '0' });
  const isTextarea = site.element === 'textarea';
  const showsValue = probe.attributes === `${empty.attributes} value="0"`;
  if (!isTextarea && !showsValue) return undefined;
  const field = path.length === 1 ? String(path[0]) : undefined;
  return { path, field, shape, empty, isTextarea };
}

/** The control with the value of a model. */
export function fillPlan({ path, field, shape, empty, isTextarea }: Plan, model: unknown): CompletedControl {
  const value = field === undefined ? valueAt(model, path) : ownValue(model, field);
  const text = valueText(value ?? shape.fallback, shape.kind);
  if (text === '') return empty;
  const { before, attributes, content, isChosen } = empty;
  if (isTextarea) return { before, attributes, content: textareaContent(text), isChosen };
  return { before, attributes: `${attributes} value="${escapeText(text)}"`, content, isChosen };
}

function ownValue(model: unknown, field: string): unknown {
  if (typeof model !== 'object' || model === null || !Object.hasOwn(model, field)) return undefined;
  return (model as Record<string, unknown>)[field];
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
