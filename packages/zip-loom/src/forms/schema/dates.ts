/** Dates and times as HTML has them (HTML §2.3.5), strictly: a day that does not exist is none. */
import type { JSONSchema } from './schema.ts';
import type { DateKind, Kind, WrittenForm } from './shape.ts';

const formats: Partial<Record<Kind, RegExp>> = {
  date: /^(\d{4,})-(\d\d)-(\d\d)$/,
  month: /^(\d{4,})-(\d\d)$/,
  week: /^(\d{4,})-W(\d\d)$/,
  time: /^(\d\d):(\d\d)(?::(\d\d)(?:\.\d{1,3})?)?$/,
  'datetime-local': /^(\d{4,})-(\d\d)-(\d\d)[T ](\d\d):(\d\d)(?::(\d\d)(?:\.\d{1,3})?)?$/,
};

/** Whether a text is a valid date or time of that kind. */
export function isValidDate(kind: Kind, text: string): boolean {
  const found = formats[kind]?.exec(text);
  if (!found) return false;
  const [, a = '', b = '', c = '', d = '', e = '', f = '0'] = found;
  switch (kind) {
    case 'date':
      return isDay(Number(a), Number(b), Number(c));
    case 'month':
      return isDay(Number(a), Number(b), 1);
    case 'week':
      return Number(a) > 0 && Number(b) >= 1 && Number(b) <= weeksOf(Number(a));
    case 'time':
      return isTime(Number(a), Number(b), Number(c || '0'));
    default:
      return isDay(Number(a), Number(b), Number(c)) && isTime(Number(d), Number(e), Number(f));
  }
}

/**
 * How a schema of texts wants a date or time of a control; `undefined` where it takes none that a control can give. Without an
 * expression of its own a moment is written as RFC 3339 §5.6 has it, which is what JSON Schema means.
 */
export function writtenForm(kind: DateKind, { pattern, format }: JSONSchema): WrittenForm | undefined {
  if (pattern === undefined) return format === 'date-time' ? 'utc-seconds' : 'as-typed';
  const test = patternTest(pattern);
  const example = examples[kind];
  return writtenForms.find((form) => test(inForm(kind, example, form)));
}

/** Whether a schema of texts takes times of a day, and knows which there are: some libraries say so by an expression alone. */
export function takesTimes({ format, pattern }: JSONSchema): boolean {
  if (format !== undefined || pattern === undefined) return false;
  const test = patternTest(pattern);
  return (test('14:05') || test('14:05:00')) && !['', '24:00', '24:00:00', '14:60', '14:60:00', '14'].some(test);
}

const examples: Readonly<Record<DateKind, string>> = {
  date: '2026-06-12',
  time: '14:05',
  'datetime-local': '2026-06-12T14:05',
  month: '2026-06',
  week: '2026-W24',
};

export const writtenForms: readonly WrittenForm[] = [
  'as-typed',
  'seconds',
  'utc-seconds',
  'utc-minutes',
  'utc-milliseconds',
];

/** Tests by the expression of a schema; one that ECMAScript cannot read passes everything. */
export function patternTest(pattern: string): (text: string) => boolean {
  try {
    const expression = new RegExp(pattern, 'u');
    return (text) => expression.test(text);
  } catch {
    return () => true;
  }
}

/** A valid text of a control as a schema wants it. Times without a zone are taken as UTC. */
export function inForm(kind: DateKind, text: string, form: WrittenForm): string {
  if (form === 'as-typed' || (kind !== 'datetime-local' && kind !== 'time')) return text;
  const [, start = '', minutes = '', seconds = '00', fraction = ''] =
    /^(.*?[T ])?(\d\d:\d\d)(?::(\d\d)(?:\.(\d{1,3}))?)?$/.exec(text) ?? [];
  const day = start.replace(' ', 'T');
  switch (form) {
    case 'seconds':
      return `${day}${minutes}:${seconds}`;
    case 'utc-minutes':
      return `${day}${minutes}Z`;
    case 'utc-seconds':
      return `${day}${minutes}:${seconds}Z`;
    case 'utc-milliseconds':
      return `${day}${minutes}:${seconds}.${fraction.padEnd(3, '0')}Z`;
  }
}

/** A time of a model as a control shows it: without a zone, which controls do not have, in UTC; with seconds where there are any. */
export function controlText(kind: Kind, text: string): string {
  if (kind !== 'time' && kind !== 'datetime-local') return text;
  const moment = kind === 'datetime-local' && /(?:Z|[+-]\d\d:?\d\d)$/i.test(text) ? Date.parse(text) : Number.NaN;
  const local = Number.isNaN(moment) ? text.replace(/Z$/i, '') : new Date(moment).toISOString().slice(0, -1);
  return local.replace(/^(.*\d\d:\d\d):00(?:\.0+)?$/, '$1').replace(/\.0+$/, '');
}

/** A valid text as a `Date`; times without a zone are taken as UTC. */
export function toDate(kind: Kind, text: string): Date {
  if (kind === 'datetime-local') return new Date(`${text.replace(' ', 'T')}Z`);
  return new Date(kind === 'month' ? `${text}-01` : text);
}

/** A `Date` with all that its kind of text can hold, in UTC: seconds too, where there are any. */
export function momentText(kind: DateKind, value: Date): string {
  const iso = value.toISOString().slice(0, -1);
  if (kind === 'datetime-local') return controlText(kind, iso);
  return kind === 'time' ? controlText(kind, iso.slice(iso.indexOf('T') + 1)) : fromDate(kind, value);
}

/** A `Date` as the text of a control. */
export function fromDate(kind: Kind, value: Date): string {
  const iso = value.toISOString();
  switch (kind) {
    case 'datetime-local':
      return iso.slice(0, 16);
    case 'month':
      return iso.slice(0, 7);
    case 'time':
      return iso.slice(11, 16);
    default:
      return iso.slice(0, 10);
  }
}

function isDay(year: number, month: number, day: number): boolean {
  if (year < 1 || month < 1 || month > 12 || day < 1) return false;
  const last = new Date(Date.UTC(2000, month, 0));
  last.setUTCFullYear(year, month, 0);
  return day <= last.getUTCDate();
}

function isTime(hour: number, minute: number, second: number): boolean {
  return hour <= 23 && minute <= 59 && second <= 59;
}

/** ISO 8601: a year has 53 weeks when it begins on a Thursday, or is a leap year that begins on a Wednesday. */
function weeksOf(year: number): number {
  const first = new Date(Date.UTC(2000, 0, 1));
  first.setUTCFullYear(year);
  const isLeap = isDay(year, 2, 29);
  return first.getUTCDay() === 4 || (isLeap && first.getUTCDay() === 3) ? 53 : 52;
}
