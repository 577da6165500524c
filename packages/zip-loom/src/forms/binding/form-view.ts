/** A form as templates and handlers see it. */
import type { Choice } from '../schema/shape.ts';
import type { Step } from '../steps.ts';
import type { FieldErrors } from './content.ts';
import type { Field, FieldSettings, FieldsWanted } from './fields.ts';
import type { ShownFile } from './files.ts';
import type { Row } from './shown-rows.ts';

/** A form that templates can bind: blank, from a model, or as it was sent. `Model` is what its schema takes. */
export interface FormView<Model = unknown> {
  /** The model’s type, for TypeScript alone: there is no such property. */
  readonly model: Model;
  /** The name that it was defined with. */
  readonly name: string;
  /** The step that is shown, of a form in several steps. */
  readonly step: Step | undefined;
  /** All its steps. */
  readonly steps: Step[];
  /** Names → messages, `''` for what concerns all of it. A page that reads them shows them: development does not look for them then. */
  readonly errors: FieldErrors;
  /** Items of a list, to repeat their controls: `(for member, i of boatForm.items('crew'))`. */
  items(list: string): Row[];
  /** Files of a field: those that were sent and are kept for this try, else those that the model has. */
  files(field: string): readonly ShownFile[];
  /** A whole field, for a part of one’s own. */
  field(name: string, settings?: FieldSettings): Field;
  /** The fields of the form, of a group or of a row, in the schema’s order. */
  fields(wanted?: FieldsWanted): Field[];
  /** The choices of a field; empty where anything can be entered. */
  choices(name: string): readonly Choice[];
  /** The label of a field, in the reader’s language. */
  labelOf(name: string): string;
  /** The text that a control shows: the one that was sent, the model’s value, or the default. */
  text(name: string): string;
}
