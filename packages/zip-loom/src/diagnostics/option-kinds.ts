/** What an option may be: in words for messages, and as a test. */
import { isRecord } from './records.ts';

export interface OptionKind {
  /** As after “give …”. */
  readonly words: string;
  holds(value: unknown): boolean;
  /** The names of an object that has options of its own. */
  readonly inside?: Readonly<Record<string, OptionKind>>;
  /** What each item of a list, or each value of a record, may be. */
  readonly each?: OptionKind;
}

export const anyText: OptionKind = { words: 'text', holds: (value) => typeof value === 'string' };

export const someText: OptionKind = {
  words: 'text that is not empty',
  holds: (value) => typeof value === 'string' && value !== '',
};

export const trueOrFalse: OptionKind = { words: 'true or false', holds: (value) => typeof value === 'boolean' };

export const anyFunction: OptionKind = { words: 'a function', holds: (value) => typeof value === 'function' };

/** An object of names and values: what is of a class of the language, as a `Map`, is none. */
export const anyRecord: OptionKind = { words: 'an object', holds: (value) => isRecord(value) };

export const textOrURL: OptionKind = {
  words: 'text or a URL',
  holds: (value) => typeof value === 'string' || value instanceof URL,
};

/** Anything at all: somebody else looks at it. */
export const anything: OptionKind = { words: 'a value', holds: () => true };

/** A number from `least` on; `Infinity` too, for no limit. */
/* @__NO_SIDE_EFFECTS__ */
export function numberFrom(least: number): OptionKind {
  return { words: `a number, ${least} or more`, holds: (value) => typeof value === 'number' && value >= least };
}

/* @__NO_SIDE_EFFECTS__ */
export function wholeNumberFrom(least: number): OptionKind {
  return {
    words: `a whole number, ${least} or more`,
    holds: (value) => (Number.isInteger(value) && (value as number) >= least) || value === Number.POSITIVE_INFINITY,
  };
}

/** One of some fixed values. */
/* @__NO_SIDE_EFFECTS__ */
export function oneOf(...values: ReadonlyArray<string | number | boolean>): OptionKind {
  const written = values.map((value) => (typeof value === 'string' ? `“${value}”` : String(value)));
  return { words: alternatives(written), holds: (value) => values.some((one) => one === value) };
}

/* @__NO_SIDE_EFFECTS__ */
export function listOf(item: OptionKind): OptionKind {
  return {
    words: `a list, each item ${item.words}`,
    holds: (value) => Array.isArray(value) && value.every((one) => item.holds(one)),
    each: item,
  };
}

/** An object of any names, with values of one kind. */
/* @__NO_SIDE_EFFECTS__ */
export function recordOf(item: OptionKind): OptionKind {
  return {
    words: `an object of names, each with ${item.words}`,
    holds: (value) => isRecord(value) && Object.values(value).every((one) => one === undefined || item.holds(one)),
    each: item,
  };
}

/** An object that has options of its own. */
/* @__NO_SIDE_EFFECTS__ */
export function groupOf(inside: Readonly<Record<string, OptionKind>>): OptionKind {
  return { words: `an object of ${alternatives(Object.keys(inside))}`, holds: isRecord, inside };
}

/** Any of several kinds. At most one of them has options inside, and one something in each of its items. */
/* @__NO_SIDE_EFFECTS__ */
export function either(...kinds: readonly OptionKind[]): OptionKind {
  const { inside, each } = Object.assign({}, ...kinds.map((kind) => ({ ...kind }))) as OptionKind;
  return {
    words: alternatives(kinds.map(({ words }) => words)),
    holds: (value) => kinds.some((kind) => kind.holds(value)),
    ...(inside ? { inside } : {}),
    ...(each ? { each } : {}),
  };
}

/** An object with certain methods. */
/* @__NO_SIDE_EFFECTS__ */
export function withMethods(words: string, ...names: readonly string[]): OptionKind {
  return {
    words,
    holds: (value) =>
      typeof value === 'object' &&
      value !== null &&
      names.every((name) => typeof (value as Record<string, unknown>)[name] === 'function'),
  };
}

function alternatives(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`;
}
