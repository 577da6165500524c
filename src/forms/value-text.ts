/** A value of a model as a control shows it. */
import { fromDate } from './dates.ts';
import type { Kind } from './shape.ts';

export function valueText(value: unknown, kind: Kind): string {
  if (typeof value === 'string') return value;
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : fromDate(kind, value);
  return typeof value === 'object' ? '' : String(value);
}
