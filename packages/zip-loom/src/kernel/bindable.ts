/**
 * Forms as pages see them. A compiled template knows that a control is bound to a form, not what a form is: it hands each control
 * to the form it was given, through this interface.
 */

/** Marks what can be in `(bind …)`. */
export const bindable = Symbol.for('zip-loom.bindable');

/** A form as templates see it. */
export interface Bindable {
  readonly [bindable]: true;
  readonly name: string;
  /** The model that it shows. */
  readonly given: unknown;
  /** The step that is shown, of a form in several steps. */
  readonly step?: { readonly name: string } | undefined;
  /** Whether the form holds a file field that was shown. */
  readonly holdsFiles: boolean;
  /** The form for readers of a locale: itself where that makes no difference. */
  inLocale?(locale: string): Bindable;
  control(control: WrittenControl | ControlSite): CompletedControl;
  /** The id of a field’s control, or `undefined` where the form has no such field. */
  idOf(name: string): string | undefined;
  /** The same for fixed text, escaped; the text itself where the form has no such field. */
  targetOf(site: FieldSite): string;
  errorsId(name: string): string;
  /** Messages of a field, or with `''` of the form itself, or the sentence that fields need another look. */
  errorsAt(name: string): readonly string[];
  /**
   * Messages of the form itself, and every field in error: its name, where its control is, its label and its messages.
   * @param ownLabels labels that the author wrote, by the names of their fields without indices
   */
  summary(ownLabels?: Readonly<Record<string, string>>): Summary;
  /** Messages that nobody asked for so far, by field; `''` for the form itself. */
  unshownErrors(): ReadonlyMap<string, readonly string[]>;
  /** Names of the fields that somebody has to fill in, with indices left out: required, and without a value. */
  neededFields(): Iterable<string>;
  /**
   * Lists whose items the page went through, for their companions: name, and which item of the model each row stands for, where that is
   * not its own place.
   */
  listsShown(): Iterable<{ name: string; rows: string }>;
  /** How many rows of a list are proved, where some were sent without proof. */
  mostRows?(list: string): number | undefined;
  /** What it takes along to its reading, as text; nothing where there is nothing. @param names of the fields that are shown, as patterns */
  stateFor(names: ReadonlySet<string>): string | undefined;
  /** How a button is that changes the form: `add crew`, `remove crew[0]`, `refresh`, `back`. */
  editButton(edit: string): { isOff: boolean; hasFocus: boolean };
  /** Throws where there are no boxes of that name: `boats[].chosen`. */
  assertBoxes(name: string): void;
}

/** All that is wrong in a form. */
export interface Summary {
  own: readonly string[];
  fields: ReadonlyArray<{ name: string; id: string; label: string; messages: readonly string[] }>;
}

/** A control as it is in the template. */
export interface WrittenControl {
  element: 'input' | 'select' | 'textarea';
  name: string;
  /** Attributes that the author wrote; they win. A bare name is `true`. */
  written: Readonly<Record<string, unknown>>;
  /** What the author wrote of that, which the form prints. */
  autofocus?: unknown;
}

/** A place of a template that names a field in fixed text: what a form works out for it can be kept. */
export interface FieldSite {
  name: string;
  /** What the form that was bound last worked out. Nobody else reads it. */
  kept: object | undefined;
}

/** A control with fixed attributes, which is there once for all pages. */
export interface ControlSite extends WrittenControl, FieldSite {
  name: string;
  /** The name without indices, as the sealed list has it. */
  readonly pattern: string;
}

/** What a form adds to a control. Everything is escaped. */
export interface CompletedControl {
  /** Markup before the control: its hidden companion. */
  before: string;
  /** Attributes that the author left out, each with a space before it. */
  attributes: string;
  /** The content of a `<textarea>`, or the options of a `<select>` that has none of its own. */
  content: string;
  /** The options of a `<select>` alone, after one of the author’s that means no choice. */
  choices: string;
  /** Whether an option or a box with this value is chosen. */
  isChosen(value: string): boolean;
}
