/** What is found in the data of a page when it is looked through, once: promises and sources that nobody reads, and forms. */
import { type Bindable, closeSource, isSource, quieten } from '../../kernel/index.ts';
import { visitObjects } from './data-values.ts';

/**
 * Sees to it that no promise of the data can end the program when it fails unread. To be called before anything else is waited
 * for.
 */
export function quietenData(data: unknown): void {
  if (typeof data !== 'object' || data === null) return;
  keepForms(data, visitObjects(data, quieten));
}

const formsByData = new WeakMap<object, ReadonlySet<Bindable>>();

/** The forms anywhere in data that was looked through. */
export function formsIn(data: object): ReadonlySet<Bindable> {
  return formsByData.get(data) ?? new Set();
}

/** Keeps them for a copy of the data. */
export function keepForms(data: object, forms: ReadonlySet<Bindable>): void {
  formsByData.set(data, forms);
}

/** Data that is quiet already, on its way to where it would be looked at again: that takes long where there is much. */
export class QuietData {
  readonly #values: unknown;

  constructor(values: unknown) {
    quietenData(values);
    this.#values = values;
  }

  /** The data itself, once it is quiet. */
  static valuesOf<Data>(data: Data): Data {
    // Unlike `instanceof`, this asks nothing of data that may only behave like an object.
    if (typeof data === 'object' && data !== null && #values in data) return data.#values as Data;
    quietenData(data);
    return data;
  }
}

/** The data for a template, with the promises that its functions give quietened as they are read. */
export function quietValues(data: object): Record<string, unknown> {
  if (!mayHaveGetters(data)) return data as Record<string, unknown>;
  return new Proxy(data as Record<string, unknown>, {
    get(target, name) {
      const value: unknown = Reflect.get(target, name);
      quieten(value);
      return value;
    },
  });
}

function mayHaveGetters(data: object): boolean {
  const prototype: unknown = Object.getPrototypeOf(data);
  if (prototype !== Object.prototype && prototype !== null) return true;
  for (const name of Object.keys(data)) if (Object.getOwnPropertyDescriptor(data, name)?.get) return true;
  return false;
}

/** Closes every async list of the data: its page failed, or nobody reads it. */
export function closeSources(data: unknown): void {
  if (typeof data !== 'object' || data === null) return;
  const close = (value: object) => {
    if (isSource(value)) closeSource(value);
  };
  visitObjects(data, close, close);
}
