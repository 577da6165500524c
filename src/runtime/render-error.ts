/** Errors that compiled templates raise. They know no place: the room above finds it from the stack, at no cost to rendering. */
import { isPromise, quieten } from './promises.ts';
import { messageOf } from './thrown.ts';

/** An error while a template runs, in the words of the product. */
export class RenderError extends Error {
  override readonly name = 'RenderError';
  readonly code: string;
  readonly hint: string | undefined;

  constructor(code: string, message: string, hint?: string) {
    super(message);
    this.code = code;
    this.hint = hint;
  }
}

/** Everything that can go wrong in a running template, in one list and one voice. */
export const renderErrors = {
  unprintable(value: unknown): RenderError {
    const [what, hint] = describe(value);
    // A function of the data may have made it: then nobody else knows it.
    quieten(value);
    return new RenderError('unprintable-value', `${what} cannot be printed.`, hint);
  },
  notIterable: (value: unknown): RenderError => {
    quieten(value);
    return isPromise(value)
      ? new RenderError(
          'not-iterable',
          '(for … of …) was given a promise.',
          'Put (await items = …) on an element or a <template> around it.',
        )
      : new RenderError(
          'not-iterable',
          `(for … of …) was given ${typeof value === 'object' ? 'an object' : `a ${typeof value}`} that is not a list.`,
          'Give it an array or another iterable; for an object, use Object.entries(…).',
        );
  },
  notADate: (value: unknown): RenderError =>
    new RenderError(
      'not-a-date',
      `“${messageOf(value).slice(0, 40)}” is not a date.`,
      'Give a Date, milliseconds, or text such as 2026-06-12.',
    ),
  climbingPath: (segment: string): RenderError =>
    new RenderError(
      'climbing-path',
      `“${segment}” cannot be a segment of an address.`,
      'Leave it out, or resolve it first.',
    ),
  notAForm: (value: unknown): RenderError => {
    quieten(value);
    return new RenderError(
      'not-a-form',
      `(bind …) was given ${value === undefined ? 'nothing' : 'something'} that is not a form.`,
      'Give it what a form definition makes: boatForm.blank(), boatForm.from(boat), or what was read.',
    );
  },
  unknownField: (form: string, field: string, known: readonly string[]): RenderError =>
    new RenderError('unknown-field', `The form “${form}” has no field “${field}”.`, `It has ${known.join(', ')}.`),
  waitedTooLong: (limit: number): RenderError =>
    new RenderError(
      'wait-limit',
      `A value did not come within ${limit} ms.`,
      'Look at what should bring it, raise “waitLimit”, or show something else with (catch error).',
    ),
  mustWait: (): RenderError =>
    new RenderError(
      'must-wait',
      'This page has to wait for a value, and it was to be rendered at once.',
      'Use render(…), stream(…) or respond(…), or give the value itself instead of a promise.',
    ),
  lateFormAction: (): RenderError =>
    new RenderError(
      'late-form-action',
      'A button that sends its form to another site cannot stand in content that comes later: the form’s token is written already.',
      'Put the button outside of (await …), or let it have a form of its own.',
    ),
  lateBase: (): RenderError =>
    new RenderError(
      'late-base',
      'A <base> that leads to another site cannot stand in content that comes later: tokens of forms are written already.',
      'Write it in the <head>, outside of (await …).',
    ),
  missingAsset: (path: string): RenderError =>
    new RenderError(
      'missing-asset',
      `There is no asset “${path}”.`,
      'Give the path of a file below the folder of assets, or of an entry of the manifest.',
    ),
  tooDeep: (limit: number): RenderError =>
    new RenderError(
      'too-deep',
      `Templates call each other more than ${limit} levels deep.`,
      'Let the call depend on data that comes to an end, or raise “maximumDepth” in the configuration.',
    ),
  regionName: (name: string): RenderError =>
    new RenderError(
      'region-name',
      `“${name}” cannot be the name of a region.`,
      'Use letters, digits, “_”, “.”, “:” and “-”; “page” and “none” are taken.',
    ),
  regionTwice: (name: string): RenderError =>
    new RenderError(
      'region-twice',
      `The region “${name}” stands twice on this page.`,
      'Give each its own name, as (region stay-${stay.id}).',
    ),
  notARecord: (): RenderError =>
    new RenderError(
      'spread-not-an-object',
      'Only an object of names and values can be spread here.',
      'Give an object, null or undefined.',
    ),
  attributeName: (name: string): RenderError =>
    new RenderError(
      'spread-attribute-name',
      `“${name}” cannot be set from a list of attributes.`,
      'Event handlers, names that are not well formed and attributes that hold code are refused; write them in the template.',
    ),
  notJSON: (reason: string): RenderError =>
    new RenderError(
      'not-json',
      `This value cannot be written as JSON: ${reason}.`,
      'Give plain data: objects, arrays, strings, numbers.',
    ),
  untrusted: (what: string): RenderError =>
    new RenderError(
      'untrusted-code-url',
      `${what} loads code, so its address must be trusted.`,
      'Begin it with fixed text that settles the origin, or use trustedURL(…) for an address that no visitor can choose.',
    ),
};

function describe(value: unknown): [what: string, hint: string] {
  if (typeof value === 'function') return ['A function', 'Call it, or leave it out.'];
  if (typeof value === 'symbol') return ['A symbol', 'Print its description, or leave it out.'];
  if (typeof value === 'object' && value !== null) {
    if (isPromise(value)) return ['A promise', 'Put (await value = …) on the element, and print the value.'];
    if (value instanceof Date) return ['A Date', 'Choose how it is written: date(…), time(…) or dateTime(…).'];
    if (value instanceof Map || value instanceof Set) return ['A Map or Set', 'Repeat an element with (for … of …).'];
  }
  return ['An object', 'Print one of its fields, or json(…) to look at it.'];
}
