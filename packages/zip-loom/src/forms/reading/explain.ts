/** Issues of a schema that its JSON Schema explains: they are worded by us, in the visitor’s language. */
import type { MessageCode } from '../messages/wording.ts';
import { patternTest } from '../schema/dates.ts';
import type { Shape, Value } from '../schema/shape.ts';

export interface Explanation {
  code: MessageCode;
  limit?: number;
}

/** What is wrong with a value that its schema refuses; `undefined` where the shape does not tell. */
export function explanationOf(shape: Shape | undefined, value: unknown): Explanation | undefined {
  if (shape?.shape === 'list' && Array.isArray(value)) {
    const { minimum, maximum } = shape;
    if (minimum !== undefined && value.length < minimum) return { code: 'too-few', limit: minimum };
    if (maximum !== undefined && value.length > maximum) return { code: 'too-many', limit: maximum };
  }
  if (shape?.shape !== 'value') return undefined;
  if (typeof value === 'string') return ofText(shape, value);
  return typeof value === 'number' ? ofNumber(shape, value) : undefined;
}

function ofText(shape: Value, text: string): Explanation | undefined {
  if (!('maximumLength' in shape)) return undefined;
  const { minimumLength, maximumLength, pattern, kind } = shape;
  // Libraries count code units or characters: the shorter count is below a limit by either.
  if (minimumLength !== undefined && [...text].length < minimumLength)
    return { code: 'too-short', limit: minimumLength };
  if (maximumLength !== undefined && text.length > maximumLength) return { code: 'too-long', limit: maximumLength };
  if (kind === 'email' || kind === 'url') return { code: kind };
  return pattern !== undefined && !patternTest(pattern)(text) ? { code: 'pattern' } : undefined;
}

function ofNumber(shape: Value, value: number): Explanation | undefined {
  if (!('step' in shape)) return undefined;
  const { minimum, maximum, isAbove, isBelow, step } = shape;
  if (minimum !== undefined && (isAbove ? value <= minimum : value < minimum))
    return { code: isAbove ? 'not-above' : 'too-small', limit: minimum };
  if (maximum !== undefined && (isBelow ? value >= maximum : value > maximum))
    return { code: isBelow ? 'not-below' : 'too-large', limit: maximum };
  if (shape.kind === 'integer' && !Number.isInteger(value)) return { code: 'integer' };
  return step !== undefined && step !== 1 ? { code: 'step', limit: step } : undefined;
}

/** How the messages of libraries look where the author of a schema wrote none. */
const ownWords: Readonly<Record<string, RegExp>> = {
  zod: /^(?:Too (?:small|big): expected |Invalid (?:input|option|string|number): |Invalid (?:email address|URL|ISO [a-z]+)$)/,
  valibot: /^Invalid [\w -]+: (?:Expected|Received) /,
  arktype: /^(?:\S+ )?must be /,
  // JSON Schema has no words for people.
  'json-schema': /^/,
};

/** Whether a message is the library’s own. Of a library that is not known, no message is: its author may have written it. */
export function isOfLibrary(vendor: string, message: string): boolean {
  return Object.hasOwn(ownWords, vendor) && ownWords[vendor]!.test(message);
}
