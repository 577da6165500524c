/** The shape of a form: what the controls and the reading need to know, and nothing else. */

/** Kinds of single values. Each has its own control and its own way to be read. */
export type Kind =
  | 'text'
  | 'long-text'
  | 'email'
  | 'url'
  | 'tel'
  | 'password'
  | 'number'
  | 'integer'
  | 'boolean'
  | 'date'
  | 'time'
  | 'datetime-local'
  | 'month'
  | 'week'
  | 'choice'
  | 'file';

export interface Choice {
  /** What is submitted. */
  value: string;
  label: string;
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

export interface Value extends Common {
  shape: 'value';
  kind: Kind;
  minimumLength: number | undefined;
  maximumLength: number | undefined;
  /** As JSON Schema has it: not anchored. */
  pattern: string | undefined;
  minimum: number | undefined;
  maximum: number | undefined;
  step: number | undefined;
  /** Missing where any value will do. Values that are not text keep their type in `typed`. */
  choices: Choice[] | undefined;
  /** The values of choices that are numbers or booleans in the schema. */
  typed: ReadonlyMap<string, unknown> | undefined;
  /** Only `true` will do, as for consent. */
  mustBeTrue: boolean;
  accept: string[] | undefined;
  /** The value is a `Date` in code. */
  asDate: boolean;
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
