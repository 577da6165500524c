/** A form as it was sent: shown again with what was typed, or accepted with its value. */

import { assertArgument, someText } from '../../diagnostics/index.ts';
import type { Bindable } from '../../kernel/index.ts';
import { ownValue } from '../../security/index.ts';
import { BoundForm } from '../binding/bound-form.ts';
import type { BindOptions, FormContent } from '../binding/content.ts';
import type { FormView } from '../binding/form-view.ts';
import { assertField } from '../check-settings.ts';
import { parsePath } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';
import type { FormSettings } from '../settings.ts';
import { stepOf } from '../steps.ts';
import { type AnswerForError, messagesAnswer } from './messages-answer.ts';

/** How reading ended, as an HTTP status. 200 where everything is right. */
export type SentStatus = 200 | 400 | 403 | 408 | 409 | 413 | 415 | 422;

/** What was sent, as a form to show again and as facts about the sending. */
export interface SentView<Name extends string, Model> extends FormView<Model> {
  /** The form’s name; tells forms apart that `readOneOf` read. */
  readonly name: Name;
  readonly status: SentStatus;
  /** The declared button that was pressed. */
  readonly button: string | undefined;
  /** The visitor has added or removed a row, or asked for the form again: it is to be shown as it is now, without messages. */
  readonly edited: boolean;
  /** What the page showed has been sent off before (`once`): it is not to be done again. */
  readonly repeated: boolean;
  /** Names that the form does not have, with `unknown: 'collect'`. */
  readonly unknown: ReadonlyMap<string, readonly string[]>;
  /** Fields whose file the visitor has asked to remove, and has sent no other. */
  readonly removed: ReadonlySet<string>;
  /** An answer for whoever wants to stop here: the status, and the messages as plain text. */
  readonly response: Response;
  /**
   * The same form, refused with a message of the handler’s own, to a field or with `''` to the form. This one stays as it is.
   * @throws {LoomError} for a field that the form does not have
   */
  refuse(field: string, message: string): Refused<Name, Model>;
}

export interface Accepted<Name extends string, Model, Value> extends SentView<Name, Model> {
  readonly ok: true;
  readonly value: Value;
}

export interface Refused<Name extends string, Model> extends SentView<Name, Model> {
  readonly ok: false;
  readonly value: undefined;
}

/** What `read` gives: `ok` tells the two apart. */
export type Sent<Name extends string = string, Model = unknown, Value = unknown> =
  | Accepted<Name, Model, Value>
  | Refused<Name, Model>;

export interface SentDetails {
  status: SentStatus;
  value: unknown;
  button: string | undefined;
  unknown: ReadonlyMap<string, readonly string[]>;
  isEdited?: boolean;
  isRepeated?: boolean;
  /** Makes the answer of the site for what was refused. */
  answer?: AnswerForError | undefined;
}

/** The status of a form that was refused, else `undefined`. @param form as templates bind it */
export function refusedStatus(form: Bindable): SentStatus | undefined {
  const { ok, status } = form as Partial<SentForm>;
  return ok === false ? status : undefined;
}

/** The one class after both. Nothing in it changes. */
export class SentForm extends BoundForm {
  readonly ok: boolean;
  readonly status: SentStatus;
  readonly value: unknown;
  readonly button: string | undefined;
  readonly edited: boolean;
  readonly repeated: boolean;
  readonly unknown: ReadonlyMap<string, readonly string[]>;
  private readonly form: Group;
  private readonly answer: AnswerForError | undefined;

  constructor(settings: FormSettings, form: Group, content: FormContent, options: BindOptions, details: SentDetails) {
    super(settings, form, content, options);
    this.form = form;
    this.status = details.status;
    this.edited = details.isEdited ?? false;
    this.repeated = details.isRepeated ?? false;
    this.ok = details.status === 200 && !this.edited;
    this.value = details.value;
    this.button = details.button;
    this.unknown = details.unknown;
    this.answer = details.answer;
  }

  get removed(): ReadonlySet<string> {
    return this.content.removed ?? new Set();
  }

  get response(): Response {
    const status = this.status === 422 || this.status === 200 ? 400 : this.status;
    return messagesAnswer(this.content.errors, (name) => this.labelOf(name), status, this.answer);
  }

  refuse(field: string, message: string): SentForm {
    if (field !== '') assertField(this.name, this.form, field);
    assertArgument('refuse', 'message', message, someText);
    const { settings, form, content, options, button, unknown, answer } = this;
    const { steps } = settings;
    // The step with the field is shown.
    const step = steps?.[stepOf(steps, parsePath(field, settings.limitsInForce.depth) ?? [])]?.name ?? content.step;
    const errors = { ...content.errors, [field]: [...(ownValue(content.errors, field) ?? []), message] };
    const status = this.status === 200 ? 422 : this.status;
    return new SentForm(settings, form, { ...content, errors, step }, options, {
      status,
      value: undefined,
      button,
      unknown,
      answer,
    });
  }
}
