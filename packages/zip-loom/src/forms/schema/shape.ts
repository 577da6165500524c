/** The shape of a form: what the controls and the reading need to know, and nothing else. */

const textKinds = ['text', 'long-text', 'email', 'url', 'tel', 'password'] as const;
const numberKinds = ['number', 'integer'] as const;
const dateKinds = ['date', 'time', 'datetime-local', 'month', 'week'] as const;

/** Kinds of single values. Each has its own control and its own way to be read. */
export const kinds = [...textKinds, ...numberKinds, ...dateKinds, 'bigint', 'boolean', 'choice', 'file'] as const;

export type Kind = (typeof kinds)[number];
type TextKind = (typeof textKinds)[number];
type NumberKind = (typeof numberKinds)[number];
export type DateKind = (typeof dateKinds)[number];

export interface Choice {
  /** What is submitted. */
  value: string;
  label: string;
  group?: string | undefined;
}

export type Shape = Value | List | Group;

interface Common {
  required: boolean;
  /** `null` is a value of this field; the only empty one, unless `optional` holds. */
  nullable: boolean;
  /** The schema’s own default, as JSON. */
  fallback: unknown;
  title: string | undefined;
  description: string | undefined;
}

/** A single value, with what its kind can be held to. */
export type Value = TextValue | NumberValue | DateValue | BigIntValue | BooleanValue | ChoiceValue | FileValue;

interface CommonValue extends Common {
  shape: 'value';
  /** Missing where any value will do. Values that are not text keep their type in `typed`. */
  choices: Choice[] | undefined;
  /** The values of choices that are numbers or booleans in the schema. */
  typed: ReadonlyMap<string, unknown> | undefined;
}

interface TextValue extends CommonValue {
  kind: TextKind;
  minimumLength: number | undefined;
  maximumLength: number | undefined;
  /** As JSON Schema has it: not anchored. */
  pattern: string | undefined;
}

interface NumberValue extends CommonValue {
  kind: NumberKind;
  minimum: number | undefined;
  maximum: number | undefined;
  /** Whether the limit itself is too small, or too large. */
  isAbove: boolean;
  isBelow: boolean;
  step: number | undefined;
}

export interface DateValue extends CommonValue {
  kind: DateKind;
  /** The value is a `Date` in code. */
  asDate: boolean;
  /** How the schema wants the text to be written. */
  written: WrittenForm;
  /** The schema does not say so exactly: another form may be meant. */
  isGuess: boolean;
}

/**
 * How a time is written for a schema: as it was typed, with its seconds, or as a moment in UTC (RFC 3339), to the minute, the second or the
 * millisecond.
 */
export type WrittenForm = 'as-typed' | 'seconds' | 'utc-minutes' | 'utc-seconds' | 'utc-milliseconds';

interface BigIntValue extends CommonValue {
  kind: 'bigint';
}

interface BooleanValue extends CommonValue {
  kind: 'boolean';
  /** Only `true` will do, as for consent. */
  mustBeTrue: boolean;
}

interface ChoiceValue extends CommonValue {
  kind: 'choice';
}

interface FileValue extends CommonValue {
  kind: 'file';
  /** Media types that are accepted; missing for any. */
  accept: string[] | undefined;
  /** Bytes. */
  maximumSize: number | undefined;
}

export interface List extends Common {
  shape: 'list';
  item: Shape;
  minimum: number | undefined;
  maximum: number | undefined;
}

export interface Group extends Common {
  shape: 'group';
  fields: ReadonlyMap<string, Shape>;
}
