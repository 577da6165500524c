/**
 * Values of a model as the schema takes them. Databases have their own ways: `null` for nothing, numbers as text or `bigint`, booleans as
 * 0 and 1, moments as `Date`, lists and objects as JSON text. What fits already, and what nobody can make sense of, stays as it is.
 */
import { inForm, isValidDate, momentText, toDate } from './dates.ts';
import { isDecimal } from './numbers.ts';
import type { DateValue, Group, Value, WrittenForm } from './shape.ts';

/**
 * A single value of a model; `undefined` for no value.
 * @param formOf how a time is written for the schema
 */
export function modelValue(shape: Value, value: unknown, formOf: (shape: DateValue) => WrittenForm): unknown {
  if (value === undefined) return undefined;
  if (value === null) return shape.nullable ? null : undefined;
  switch (shape.kind) {
    case 'number':
    case 'integer':
      return numberOf(value) ?? value;
    case 'bigint':
      return bigintOf(value) ?? value;
    case 'boolean':
      return booleans.get(String(value)) ?? value;
    case 'date':
    case 'time':
    case 'datetime-local':
    case 'month':
    case 'week':
      return momentOf(shape, value, formOf) ?? value;
    case 'file':
      return value;
    default: {
      const text = typeof value === 'number' || typeof value === 'bigint' ? String(value) : value;
      return shape.typed?.get(String(value)) ?? text;
    }
  }
}

/** A model whose lists and groups are no texts: such columns hold JSON. */
export function withoutJSONTexts(form: Group, model: object): object {
  let parsed: Record<string, unknown> | undefined;
  for (const [name, { shape }] of form.fields) {
    if (shape === 'value' || !Object.hasOwn(model, name)) continue;
    const text: unknown = (model as Record<string, unknown>)[name];
    const value = typeof text === 'string' ? parsedJSON(text) : undefined;
    if (value === undefined) continue;
    parsed ??= { ...model };
    parsed[name] = value;
  }
  return parsed ?? model;
}

function parsedJSON(text: string): unknown {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' ? value : undefined;
  } catch {
    return undefined;
  }
}

function numberOf(value: unknown): number | undefined {
  if (typeof value !== 'bigint' && !(typeof value === 'string' && isDecimal(value))) return undefined;
  const number = Number(value);
  // More digits than a number holds would be another value.
  return Number.isFinite(number) && (Number.isSafeInteger(number) || !Number.isInteger(number)) ? number : undefined;
}

function bigintOf(value: unknown): bigint | undefined {
  if (Number.isSafeInteger(value)) return BigInt(value as number);
  return typeof value === 'string' && /^-?\d{1,1000}$/.test(value) ? BigInt(value) : undefined;
}

const booleans: ReadonlyMap<string, boolean> = new Map([
  ['0', false],
  ['1', true],
]);

function momentOf(shape: DateValue, value: unknown, formOf: (shape: DateValue) => WrittenForm): unknown {
  const { kind, asDate } = shape;
  if (value instanceof Date)
    return asDate || Number.isNaN(value.getTime()) ? value : inForm(kind, momentText(kind, value), formOf(shape));
  if (typeof value !== 'string' || !isValidDate(kind, value)) return undefined;
  return asDate ? toDate(kind, value) : inForm(kind, value, formOf(shape));
}
