/** A value in a few words, for messages. */
export function describeValue(value: unknown): string {
  switch (typeof value) {
    case 'string':
      return `“${value.length > 40 ? `${value.slice(0, 40)}…` : value}”`;
    case 'function':
    case 'symbol':
      return `a ${typeof value}`;
    case 'object':
      if (value === null) return 'null';
      if (Array.isArray(value)) return 'a list';
      if (value instanceof Date) return Number.isNaN(value.getTime()) ? 'an invalid Date' : 'a Date';
      return value instanceof Promise ? 'a promise' : 'an object';
    default:
      return String(value);
  }
}
