/** Data in words, for developers: names and values, as much of them as somebody wants to read. */
import { type Bindable, bindable } from '../../kernel/index.ts';

const mostNames = 12;
const mostItems = 3;
const mostLetters = 60;
const deepest = 3;

/** What a screen that others may see does not show. */
const secretName =
  /authori[sz]ation|authenticat|cookie|credential|csrf|xsrf|pass(?:word|phrase|code|wd)|secret|session|signature|token|(?:api|access|private|signing)[_-]?key/i;
/** Shorter ones, which are parts of other words too: as a word of the name alone, as in `pinCode` and `user_pin`. */
const shortSecrets = new Set([
  'auth',
  'bearer',
  'cvc',
  'cvv',
  'jwt',
  'otp',
  'pass',
  'pin',
  'pins',
  'pwd',
  'sid',
  'totp',
]);

function isSecret(name: string): boolean {
  if (secretName.test(name)) return true;
  const words = name
    .replace(/[a-z\d](?=[A-Z])/g, '$& ')
    .toLowerCase()
    .split(/[^a-z\d]+/);
  return words.some((word) => shortSecrets.has(/^[a-z]*/.exec(word)![0]));
}

/** `berths: list of 72: { id: 1, name: "Windward" }, …`, a line for each name. No function of the data is called. */
export function dataInWords(data: unknown): string {
  if (typeof data !== 'object' || data === null) return '';
  try {
    return fieldsOf(data)
      .map(([name, value]) => `${name}: ${value}`)
      .join('\n');
  } catch {
    return 'It cannot be looked at.';
  }
}

function fieldsOf(one: object, depth = 1): Array<[name: string, value: string]> {
  return Object.entries(Object.getOwnPropertyDescriptors(one)).map(([name, property]) => [
    name,
    isSecret(name) ? 'not shown' : 'value' in property ? inWords(property.value, depth) : 'worked out when it is read',
  ]);
}

function inWords(value: unknown, depth: number): string {
  switch (typeof value) {
    case 'string':
      return JSON.stringify(value.length > mostLetters ? `${value.slice(0, mostLetters)}…` : value);
    case 'function':
      return 'a function';
    case 'symbol':
      return 'a symbol';
    case 'bigint':
      return `${value}n`;
    case 'object':
      return value === null ? 'null' : objectInWords(value, depth);
    default:
      return String(value);
  }
}

function objectInWords(value: object, depth: number): string {
  try {
    if (bindable in value) return formInWords(value as Bindable, depth);
    if (value instanceof Date) return Number.isNaN(value.getTime()) ? 'a Date that is none' : value.toISOString();
    if (value instanceof URL) return value.href;
    if (value instanceof Promise) return 'a promise';
    if (Array.isArray(value)) return listInWords(value, depth);
    if (value instanceof Map || value instanceof Set) return `${value.constructor.name} of ${value.size}`;
    const kind: unknown = Object.getPrototypeOf(value)?.constructor?.name;
    const before = typeof kind === 'string' && kind !== 'Object' ? `${kind} ` : '';
    if (depth >= deepest) return `${before}{ … }`;
    const fields = fieldsOf(value, depth + 1);
    const shown = fields.slice(0, mostNames).map(([name, text]) => `${name}: ${text}`);
    if (fields.length > mostNames) shown.push('…');
    return shown.length === 0 ? `${before}{}` : `${before}{ ${shown.join(', ')} }`;
  } catch {
    return 'an object that cannot be looked at';
  }
}

function listInWords(value: readonly unknown[], depth: number): string {
  if (value.length === 0) return 'an empty list';
  if (depth >= deepest) return `list of ${value.length}`;
  const shown = value.slice(0, mostItems).map((item) => inWords(item, depth + 1));
  return `list of ${value.length}: ${shown.join(', ')}${value.length > mostItems ? ', …' : ''}`;
}

/** Of a form what it shows, not what it is made of. */
function formInWords(form: Bindable, depth: number): string {
  return `form “${form.name}” of ${inWords(form.given ?? {}, depth)}`;
}
