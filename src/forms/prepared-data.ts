/** Forms among the data of a page that ask for their choices before it is rendered. */
import type { FormExchange } from './binding/asked-choices.ts';
import { Form } from './form.ts';

/** Forms are looked for so deep: `{ posts: [{ form }] }` is 3 deep. */
const deepest = 5;

/** Rows of a list are mostly alike: where the first ones hold no form, none is looked for in the others. */
const tellingRows = 4;

/**
 * The data with its forms ready, at its top, in lists and in plain objects; `undefined` where none of them asks for anything. Getters
 * are left to the template.
 */
export function preparedData(data: object, exchange: FormExchange): Promise<object> | undefined {
  const waiting = new Set<Form>();
  collect(data, waiting, deepest);
  if (waiting.size === 0) return undefined;
  const ready = [...waiting].map(async (form) => [form, await form.prepared(exchange)] as const);
  return Promise.all(ready).then((forms) => withForms(data, new Map<unknown, unknown>(forms), deepest) as object);
}

function collect(value: unknown, waiting: Set<Form>, depth: number): void {
  if (waits(value)) waiting.add(value as Form);
  else if (depth > 0) for (const one of inside(value, depth === deepest)) collect(one, waiting, depth - 1);
}

/** What a list or an object holds, where forms are looked for in it. */
function inside(value: unknown, isTop: boolean): readonly unknown[] {
  if (Array.isArray(value)) return holdsForms(value) ? value : [];
  return isTop || isRecord(value)
    ? Object.keys(value as object).map((name) => Object.getOwnPropertyDescriptor(value, name)?.value as unknown)
    : [];
}

function holdsForms(list: readonly unknown[]): boolean {
  return list.slice(0, tellingRows).some((row) => {
    if (!isRecord(row)) return row instanceof Form || Array.isArray(row);
    return inside(row, false).some((one) => one instanceof Form || Array.isArray(one) || isRecord(one));
  });
}

/** A copy, with other forms in their places; the value itself where it holds none of them. */
function withForms(value: unknown, forms: ReadonlyMap<unknown, unknown>, depth: number): unknown {
  const form = forms.get(value);
  if (form !== undefined || depth === 0) return form ?? value;
  if (Array.isArray(value)) return holdsForms(value) ? value.map((one) => withForms(one, forms, depth - 1)) : value;
  if (depth !== deepest && !isRecord(value)) return value;
  const changed: Record<string, PropertyDescriptor> = {};
  for (const name of Object.keys(value as object)) {
    const own: unknown = Object.getOwnPropertyDescriptor(value, name)?.value;
    const other = withForms(own, forms, depth - 1);
    if (other !== own) changed[name] = { value: other, enumerable: true, configurable: true };
  }
  if (Object.keys(changed).length === 0) return value;
  const copy: object = Object.create(Object.getPrototypeOf(value), Object.getOwnPropertyDescriptors(value as object));
  return Object.defineProperties(copy, changed);
}

function waits(value: unknown): boolean {
  try {
    return value instanceof Form && value.waits;
  } catch {
    // Data may be anything, a proxy that answers nothing, too.
    return false;
  }
}

function isRecord(value: unknown): value is object {
  try {
    return typeof value === 'object' && value !== null && value.constructor === Object;
  } catch {
    return false;
  }
}
