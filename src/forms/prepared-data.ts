/** Forms among the data of a page that ask for their choices before it is rendered. */
import type { FormExchange } from './binding/asked-choices.ts';
import { Form } from './form.ts';

/**
 * The data with its forms ready, at its top and in lists there; `undefined` where none of them asks for anything. Getters are left to
 * the template.
 */
export function preparedData(data: object, exchange: FormExchange): Promise<object> | undefined {
  let waiting: Array<Promise<readonly [name: string, value: unknown]>> | undefined;
  for (const name of Object.keys(data)) {
    const value: unknown = Object.getOwnPropertyDescriptor(data, name)?.value;
    const isList = Array.isArray(value);
    if (!(isList ? value.some(waits) : waits(value))) continue;
    const ready = isList ? Promise.all(value.map((one) => prepared(one, exchange))) : prepared(value, exchange);
    waiting ??= [];
    waiting.push(ready.then((form) => [name, form]));
  }
  return waiting && Promise.all(waiting).then((ready) => withValues(data, ready));
}

function waits(value: unknown): boolean {
  try {
    return value instanceof Form && value.waits;
  } catch {
    // Data may be anything, a proxy that answers nothing, too.
    return false;
  }
}

async function prepared(value: unknown, exchange: FormExchange): Promise<unknown> {
  return waits(value) ? (value as Form).prepared(exchange) : value;
}

function withValues(data: object, values: ReadonlyArray<readonly [string, unknown]>): object {
  const copy: object = Object.create(Object.getPrototypeOf(data), Object.getOwnPropertyDescriptors(data));
  for (const [name, value] of values)
    Object.defineProperty(copy, name, { value, enumerable: true, configurable: true });
  return copy;
}
