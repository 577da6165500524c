/** Forms among the data of a page: at its top, in lists and in plain objects. */
import { type Bindable, bindable } from '../kernel/index.ts';

/** Forms are looked for so deep: `{ posts: [{ form }] }` is 3 deep. */
const deepest = 5;

/** Rows of a list are mostly alike: where the first ones hold no form, none is looked for in the others. */
const tellingRows = 4;

/** The data with its forms for readers of a locale. */
export function localizedData<Data extends object>(data: Data, locale: string | undefined): Data {
  if (locale === undefined) return data;
  const forms = new Map<Bindable, Bindable>();
  for (const form of bindablesIn(data)) {
    const localized = form.inLocale?.(locale) ?? form;
    if (localized !== form) forms.set(form, localized);
  }
  return withBindables(data, forms);
}

/** The forms of the data. Getters are left to the template. */
export function bindablesIn(data: object): Set<Bindable> {
  const found = new Set<Bindable>();
  const collect = (value: unknown, depth: number): void => {
    if (isBindable(value)) found.add(value);
    else if (depth > 0) for (const one of inside(value, depth === deepest)) collect(one, depth - 1);
  };
  collect(data, deepest);
  return found;
}

/** The data with other forms in their places: a copy as far as it leads to them. */
export function withBindables<Data extends object>(data: Data, forms: ReadonlyMap<Bindable, Bindable>): Data {
  return forms.size === 0 ? data : (replaced(data, forms, deepest) as Data);
}

function replaced(value: unknown, forms: ReadonlyMap<unknown, Bindable>, depth: number): unknown {
  const form = forms.get(value);
  if (form !== undefined || depth === 0) return form ?? value;
  if (Array.isArray(value)) return holdsForms(value) ? value.map((one) => replaced(one, forms, depth - 1)) : value;
  if (depth !== deepest && !isRecord(value)) return value;
  const changed: Record<string, PropertyDescriptor> = {};
  for (const name of Object.keys(value as object)) {
    const own: unknown = Object.getOwnPropertyDescriptor(value, name)?.value;
    const other = replaced(own, forms, depth - 1);
    if (other !== own) changed[name] = { value: other, enumerable: true, configurable: true };
  }
  if (Object.keys(changed).length === 0) return value;
  const copy: object = Object.create(Object.getPrototypeOf(value), Object.getOwnPropertyDescriptors(value as object));
  return Object.defineProperties(copy, changed);
}

/** Values in a list or an object that may be forms or lead to some. */
function inside(value: unknown, isTop: boolean): readonly unknown[] {
  if (Array.isArray(value)) return holdsForms(value) ? value : [];
  return isTop || isRecord(value)
    ? Object.keys(value as object).map((name) => Object.getOwnPropertyDescriptor(value, name)?.value as unknown)
    : [];
}

function holdsForms(list: readonly unknown[]): boolean {
  return list.slice(0, tellingRows).some((row) => {
    if (!isRecord(row)) return isBindable(row) || Array.isArray(row);
    return inside(row, false).some((one) => isBindable(one) || Array.isArray(one) || isRecord(one));
  });
}

function isRecord(value: unknown): value is object {
  try {
    return typeof value === 'object' && value !== null && value.constructor === Object;
  } catch {
    return false;
  }
}

/** Data may be anything, a proxy that answers nothing, too. */
function isBindable(value: unknown): value is Bindable {
  try {
    return typeof value === 'object' && value !== null && bindable in value;
  } catch {
    return false;
  }
}
