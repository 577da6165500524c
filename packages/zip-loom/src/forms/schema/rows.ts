/** Rows of lists: how many there are, and which item of the model each stands for. */
import type { Raw } from './raw.ts';
import type { List } from './shape.ts';

/** How many rows a list shows: those that were sent, the model’s, or as many as it must have. */
export function rowCount(shape: List, raw: Raw | undefined, value: unknown): number {
  if (raw?.raw === 'list') return raw.items.size;
  if (Array.isArray(value)) return value.length;
  return (value === undefined || value === null) && shape.required ? (shape.minimum ?? 0) : 0;
}

/** Rows as the companion of their list says them: `0,2,+`; nothing where each is at its own place. */
export function writeRows(raw: Raw | undefined): string {
  if (raw?.raw !== 'list' || raw.rows.every((row, index) => row === index)) return '';
  return raw.rows.map((row) => row ?? '+').join(',');
}

/** Reads them: text that was sealed, never a sender's. `undefined` if each row is at its own place. */
export function readRows(text: string): Array<number | undefined> | undefined {
  return text === '' ? undefined : text.split(',').map((row) => (row === '+' ? undefined : Number(row)));
}
