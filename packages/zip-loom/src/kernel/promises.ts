/** Promises among the values of a page. */

/** Whether a value is a promise, of whatever kind. */
export function isPromise(value: unknown): value is PromiseLike<unknown> {
  if (typeof value !== 'object' || value === null) return false;
  try {
    return 'then' in value && typeof value.then === 'function';
  } catch {
    return false;
  }
}

/**
 * A promise that fails unread must not end the program. Only ECMAScript’s own promises can; others may begin their work when
 * they are asked, so they are left alone.
 */
export function quieten(value: unknown): void {
  if (typeof value !== 'object' || value === null) return;
  try {
    // Most values are records, and no record is a promise of ECMAScript’s own.
    if (Object.getPrototypeOf(value) === Object.prototype) return;
    if (value instanceof Promise || isPromise(value)) Promise.prototype.then.call(value, undefined, ignore);
  } catch {}
}

function ignore(): void {}

/** Gives a value back, quietened: for values that a template may never wait for. */
export function quiet<Value>(value: Value): Value {
  quieten(value);
  return value;
}
