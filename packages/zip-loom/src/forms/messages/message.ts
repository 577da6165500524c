/** What a message is. */

/** Numbers and names that a message may mention. */
export interface MessageFacts {
  label: string;
  limit?: number | undefined;
}

export type MessageText = string | ((facts: MessageFacts) => string);

/** Bytes in the unit that people know files by: the number and the unit. */
export function sizeOf(bytes: number, locale: string): string {
  const [number, unit] =
    bytes < 1024 ? [bytes, 'byte'] : bytes < 1024 ** 2 ? [bytes / 1024, 'kilobyte'] : [bytes / 1024 ** 2, 'megabyte'];
  const digits = unit === 'byte' || number >= 10 ? 0 : 1;
  const style = unit === 'byte' ? 'long' : 'short';
  return new Intl.NumberFormat(locale, {
    style: 'unit',
    unit,
    unitDisplay: style,
    maximumFractionDigits: digits,
    useGrouping: false,
  }).format(number);
}
