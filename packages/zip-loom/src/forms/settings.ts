/** What a definition says besides its schema. */
import type { ChoicesOf, Search } from './binding/asked-choices.ts';
import type { Limits } from './limits.ts';
import type { ChoiceTexts, Texts } from './messages/by-locale.ts';
import type { Messages } from './messages/wording.ts';
import type { JSONSchema, StandardSchema } from './schema/schema.ts';
import type { Kind } from './schema/shape.ts';
import type { StepSettings } from './steps.ts';

/** What a definition says besides its schema. */
export interface FormOptions {
  /**
   * Labels by name, or by locale and name; items of lists as `crew[].name`. Default: the schema’s title, or the name in words.
   */
  labels?: Texts;
  /** Hints by name, or by locale and name. */
  hints?: Texts;
  /** Labels of choices by name and value, or by locale, name and value. */
  choiceLabels?: ChoiceTexts;
  /**
   * Choices that come from data, by name: asked for when the form is shown and when it is read. They are given the exchange, and the form
   * with what it shows, for choices that depend on another field.
   */
  choices?: Readonly<Record<string, ChoicesOf>>;
  /** Fields whose choices are too many to show: what is typed is searched for. By name. */
  searches?: Readonly<Record<string, Search>>;
  /** Kinds that the schema cannot express, by name. */
  kinds?: Readonly<Record<string, Kind>>;
  /** The shape as JSON Schema, for schema libraries that cannot give it. */
  shape?: JSONSchema;
  /** Words for messages, by code, or by locale and code. */
  messages?: Messages;
  /** What becomes of names that the form does not have. Default: `ignore`. */
  unknown?: 'ignore' | 'reject' | 'collect';
  /** Fields whose empty text is kept as `''`. */
  empty?: Readonly<Record<string, 'keep'>>;
  /** Whether whitespace around a text is shed, or by name. Default: `true`, but for passwords. */
  trim?: boolean | Readonly<Record<string, boolean>>;
  /** Whether what a page shows can be sent off only once: a second press of its button is told that the first has arrived. Default: `false`. */
  once?: boolean;
  /** Names of submit buttons. */
  buttons?: readonly string[];
  /** How much a submission may bring, and how long it may take: the table of limits. */
  limits?: Partial<Limits>;
}

/** A definition’s name and options, as the rest of the room uses them. */
export interface FormSettings extends FormOptions {
  name: string;
  schema: StandardSchema;
  limitsInForce: Limits;
  /** The steps that the form is shown in, one after another. */
  steps?: readonly StepSettings[];
}
