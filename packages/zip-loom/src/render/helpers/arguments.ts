/**
 * What helpers are given, looked at before it is printed: in development a mistake is an error at its place, visitors see the page
 * without the value, and the log has the place. `null` always means that there is nothing to print.
 */
import { type Diagnostic, describeValue, RenderError } from '../../diagnostics/index.ts';
import { renderDiagnostic } from '../diagnostics.ts';
import { plain } from '../text.ts';

/** Told of a value that a helper cannot print. In development it throws the error. */
export type OnFault = (error: RenderError) => void;

/** Checks for the helpers of one page’s reader. */
export class HelperArguments {
  private readonly onFault: OnFault;

  constructor(onFault: OnFault) {
    this.onFault = onFault;
  }

  /** The number of a helper as `Intl` takes it; text in decimal notation is one too. `undefined` where there is nothing to print. */
  number(value: unknown, written: string): number | bigint | undefined {
    if (typeof value === 'number' ? !Number.isNaN(value) : typeof value === 'bigint') return value as number | bigint;
    if (value === null || value === '') return undefined;
    // `Intl` reads the text itself, with all of its digits (ECMA-402 §15.5.16, ToIntlMathematicalValue).
    if (typeof value === 'string' && /^-?\d+(?:\.\d+)?$/.test(value)) return value as unknown as number;
    this.fault(written, `${describeValue(value)} is not a number`);
    return undefined;
  }

  /** The moment of a helper; `undefined` where there is nothing to print. */
  moment(value: unknown): Date | undefined {
    if (value === null || value === '') return undefined;
    const moment = momentOf(value);
    if (!moment) this.report(renderDiagnostic('invalid-date', { value: describeValue(value) }));
    return moment;
  }

  /** One of the words that a helper takes; the usual one in place of any other. */
  word<Word extends string>(value: unknown, words: readonly Word[], usual: Word, written: string): Word {
    if (value === undefined) return usual;
    const found = words.find((word) => word === value);
    if (found === undefined) this.fault(written, `${describeValue(value)} is none of ${words.join(', ')}`);
    return found ?? usual;
  }

  /** Reports a wrong call. */
  fault(written: string, reason: string): void {
    this.report(renderDiagnostic('invalid-helper-call', { written, reason }));
  }

  private report(diagnostic: Diagnostic): void {
    this.onFault(new RenderError(diagnostic));
  }
}

/** ISO 8601, as databases and browsers write it. */
const isoText =
  /^(\d{4})(?:-(\d\d)(?:-(\d\d)(?:[T ]\d\d:\d\d(?::\d\d(?:[.,]\d+)?)?\s?(?:Z|[+-]\d\d(?::?\d\d)?)?)?)?)?$/i;
/** As `Date` itself and HTTP write it (RFC 9110 §5.6.7). */
const dateText = /^(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun),? /;

function momentOf(value: unknown): Date | undefined {
  if (value instanceof Date || typeof value === 'number') return valid(new Date(value));
  if (typeof value !== 'string') return undefined;
  // Most texts are days, and most days are in every month.
  if (isDayAlone(value)) {
    const isReal = isDay(Number(value.slice(0, 4)), Number(value.slice(5, 7)), Number(value.slice(8)));
    return isReal ? new Date(value) : undefined;
  }
  const day = isoText.exec(value);
  if (day) {
    const [, year, month = '01', date = '01'] = day;
    if (!isDay(Number(year), Number(month), Number(date))) return undefined;
    // Some databases write an offset of whole hours.
    const isShort = value.length > 10 && /[+-]\d\d$/.test(value);
    return valid(new Date(isShort ? `${value}:00` : value));
  }
  if (isTimeAlone(value)) return valid(new Date(`1970-01-01T${value}Z`));
  return dateText.test(value) ? valid(new Date(value)) : undefined;
}

/** Whether text is a day without a time. */
export function isDayAlone(value: unknown): boolean {
  return typeof value === 'string' && value.length === 10 && /^\d{4}-\d\d-\d\d$/.test(value);
}

/** Whether text is a time of day. */
export function isTimeAlone(value: unknown): boolean {
  return typeof value === 'string' && value.length <= 8 && /^\d\d:\d\d(?::\d\d)?$/.test(value);
}

function valid(time: Date): Date | undefined {
  return Number.isNaN(time.getTime()) ? undefined : time;
}

/** Whether the calendar has that day: `Date` takes 31 June for 1 July. */
function isDay(year: number, month: number, day: number): boolean {
  if (month < 1 || month > 12 || day < 1) return false;
  return day <= 28 || day <= new Date(Date.UTC(year, month, 0)).getUTCDate();
}

/** Items as text, where the value is a list of any kind; `undefined` where it is none. */
export function itemsOf(value: unknown): string[] | undefined {
  if (typeof value !== 'object' || value === null || !(Symbol.iterator in value)) return undefined;
  return [...(value as Iterable<unknown>)].map(plain);
}
