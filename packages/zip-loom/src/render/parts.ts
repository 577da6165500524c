/** Development: what must not be undefined is told by its name in the template, with what was probably meant. */
import { asError, isThrown, type Near, nearest, RenderError } from '../diagnostics/index.ts';
import type { Output } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';

/** A part of an expression: as it is written, where it is, and for a field its owner and its name. */
type Part = readonly [text: string, start: number, end: number, owner?: () => unknown, name?: string];

/** Arguments of a page that were undefined, by the parameter: where they were given, in words. */
const undefinedArguments = new WeakMap<Output, Map<string, string>>();

/** So many names of an object are looked through. */
const mostNames = 1000;

/** Gives back what something is read of. @throws {RenderError} where there is nothing */
export function readPart<Value>(out: Output, value: Value, ...part: Part): Value {
  if (value !== undefined && value !== null) return value;
  const [text, start, end] = part;
  const { near, names } = likelyNames(part);
  const given = undefinedArguments.get(out)?.get(text);
  throw new RenderError(
    renderDiagnostic('undefined-value', { text, isNull: value === null, nearest: near, names, given }),
    { start, end },
  );
}

/**
 * The result of a call. If the engine or a built-in helper throws, and the function or an argument is undefined, the error names that.
 * An error that a project’s own helper means to throw is thrown as it is.
 */
export function called<Result>(call: () => Result, parts: readonly Part[]): Result {
  try {
    return call();
  } catch (error) {
    const isExplained = isThrown(error, RenderError) ? error.span !== undefined : !isThrown(error, TypeError);
    const wrong = isExplained ? undefined : parts.find(([, , , owner, name]) => fieldOf(owner, name!) === undefined);
    if (!wrong) throw error;
    const [text, start, end] = wrong;
    const { near, names } = likelyNames(wrong);
    const diagnostic = renderDiagnostic('undefined-argument', { text, reason: reasonOf(error), nearest: near, names });
    throw new RenderError(diagnostic, { start, end }, error);
  }
}

/**
 * Gives a value back; an `undefined` is noted with its place in the template.
 * @param argument the parameter that it is given to
 */
export function noteUndefined<Value>(
  out: Output,
  value: Value,
  place: string,
  argument: string | undefined,
  ...part: Part
): Value {
  if (value !== undefined) return value;
  const [text] = part;
  const { near, names } = likelyNames(part);
  const diagnostic = renderDiagnostic('missing-value', { place, text, nearest: near, names });
  out.settings.note(diagnostic);
  if (argument === undefined) return value;
  const known = undefinedArguments.get(out) ?? new Map();
  undefinedArguments.set(out, known.set(argument, `It was given at ${diagnostic.message} ${diagnostic.hint}`));
  return value;
}

/** The name that was probably meant for a part of an object, and the names that it has. */
function likelyNames([, , , owner, name]: Part): { near: Near | undefined; names: readonly string[] } {
  const names = owner ? namesOf(safely(owner)) : [];
  return { near: nearest(name ?? '', names), names: names.slice(0, 12) };
}

/** Why a call failed; nothing where there was nothing to call. */
function reasonOf(error: unknown): string | undefined {
  if (isThrown(error, RenderError)) return error.diagnostic.message;
  const { message, name } = asError(error);
  if (/ is not a function$/.test(message)) return undefined;
  return /[.!?]$/.test(message) ? message : `${message || name}.`;
}

function fieldOf(owner: (() => unknown) | undefined, name: string): unknown {
  return safely(() => (owner?.() as Record<string, unknown> | undefined)?.[name]);
}

/** What an object has, its class included. */
function namesOf(object: unknown): string[] {
  const names = new Set<string>();
  const collect = () => {
    for (let one = object; typeof one === 'object' && one !== null && one !== Object.prototype; ) {
      for (const name of Object.getOwnPropertyNames(one)) {
        if (names.size >= mostNames) return;
        if (name !== 'constructor') names.add(name);
      }
      one = Object.getPrototypeOf(one);
    }
  };
  safely(collect);
  return [...names];
}

/** Data may be anything: whatever it throws says nothing here. */
function safely(work: () => unknown): unknown {
  try {
    return work();
  } catch {
    return undefined;
  }
}
