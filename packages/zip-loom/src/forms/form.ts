/** A form’s definition, and forms that were made from it but not sent, as users see them. */

import type { BindOptions } from './binding/content.ts';
import type { FormView } from './binding/form-view.ts';
import type { Sent } from './reading/sent.ts';
import type { StepSettings } from './steps.ts';

/** How a request is read without a loom. */
export interface ReadRequestOptions {
  /** Says that no token is looked for. */
  token?: false;
  /** The names that are read; default: all of the form. */
  only?: readonly string[];
}

/**
 * A model as a program has it, a row of a database for example. A field that is `null`, `undefined` or missing has no value, at any depth;
 * numbers may be `bigint` or text, booleans 0 and 1, dates and times `Date`.
 */
export type ModelOf<Input> = { readonly [Field in keyof Input]?: ModelValue<Input[Field]> | null | undefined };

export type ModelValue<Value> = Value extends boolean
  ? boolean | number | bigint
  : Value extends number
    ? Value | bigint | `${number}`
    : Value extends bigint
      ? bigint | number | `${bigint}`
      : Value extends string
        ? string extends Value
          ? string | Date
          : Value
        : Value extends Date
          ? Date | string
          : Value extends Blob
            ? Value
            : Value extends ReadonlyArray<infer Item>
              ? ReadonlyArray<ModelValue<Item>>
              : Value extends object
                ? ModelOf<Value>
                : Value;

/**
 * The form that a template takes, by its definition.
 * @example export type BoatForm = FormViewOf<typeof boatForm>;
 */
export type FormViewOf<Definition> =
  Definition extends FormDefinition<string, infer Input, unknown> ? FormView<Input> : never;

/** One form, defined once: shown by its views, read from submissions. */
export interface FormDefinition<Name extends string = string, Input = unknown, Output = unknown> {
  /** The name of the form. */
  readonly name: Name;
  /** The type of what reading gives, for TypeScript alone: there is no such property. */
  readonly output?: Output;
  /** A form to fill in, with some values given. */
  blank(values?: ModelOf<Input>, options?: BindOptions): Form<Name, Input, Output>;
  /** A form that shows a model; without one, a blank form: so one handler serves who creates and who edits. */
  from(model: (ModelOf<Input> & object) | null | undefined, options?: BindOptions): Form<Name, Input, Output>;
  /**
   * Reads a request without a loom, for APIs and tests. No token is looked for: `token: false` says that this is meant, and
   * without it the answer is a refusal.
   */
  read(request: Request, options?: ReadRequestOptions): Promise<Sent<Name, Input, Output>>;
  /** Reads the query of a URL: a search form, or a link that searches. */
  readQuery(url: string | URL): Promise<Sent<Name, Input, Output>>;
  /**
   * The form in several steps, one page after another. Each is judged by its own fields and those before it; what was sent with others
   * travels in the page, sealed.
   * @example const staySteps = stayForm.steps([{ name: 'dates', fields: ['from', 'until'] }, { name: 'crew', fields: ['crew'] }]);
   * @throws {LoomError} for a field that the form does not have or that is in two steps
   */
  steps(steps: readonly StepSettings[]): FormDefinition<Name, Input, Output>;
}

/** A form that has not been sent. `read` takes it too: what was not sent keeps its value. */
export interface Form<Name extends string = string, Input = unknown, Output = unknown> extends FormView<Input> {
  readonly name: Name;
  /** The type of what reading gives, for TypeScript alone: there is no such property. */
  readonly output: Output;
}
