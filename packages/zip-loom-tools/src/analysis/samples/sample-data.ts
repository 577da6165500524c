/** Data of a type, made up from the names of its fields: always the same. */
import { marks } from './sample-questions.ts';
import { type DataType, typeText } from './type-text.ts';

/** So many items a list has. */
const items = 3;

/** A moment of the made-up data. */
const moment = '2026-06-12T12:00:00Z';

/** What was made: JSON, with what only code can make among it. */
type Made = string | number | boolean | null | Code | Exact | Made[] | Map<string, Made>;

/** A beginning and an end around what it holds. */
interface Code {
  before: string;
  held?: Made;
  after: string;
}

/** What TypeScript would take for something wider: a text that is one of few, a list of so many items. */
interface Exact {
  exact: string | Made[];
  /** As its type is written; as it stands where there is none. */
  type: string;
}

export interface SampleText {
  text: string;
  /** Whether it is code: JSON has no days, promises and functions. */
  isCode: boolean;
}

/** A value that nobody can make up. */
class Unmakeable extends Error {}

/**
 * Samples of what a template takes: `usual` with all that it can be given, and `little` with what it has to be given, where that is less.
 * @param isTyped whether code is in TypeScript
 * @returns why there is none, where a value of it cannot be made up
 */
export function sampleText(type: DataType, isTyped: boolean): SampleText | { reason: string } {
  try {
    const samples = new Map([
      ['usual', made(type, { name: '', at: 0, isLittle: false })],
      ['little', made(type, { name: '', at: 0, isLittle: true })],
    ]);
    const asText = (value: Made) => written(value, '', isTyped);
    if (asText(samples.get('usual')!) === asText(samples.get('little')!)) samples.delete('little');
    const isCode = holdsCode(samples);
    const text = isCode ? `export const samples = ${asText(samples)};\n` : `${JSON.stringify(samples, plain, 2)}\n`;
    return { text, isCode };
  } catch (error) {
    if (error instanceof Unmakeable) return { reason: error.message };
    throw error;
  }
}

interface Place {
  /** Of the field that a value is for. */
  name: string;
  /** Which item of a list it is in, counted from 1; 0 for none. */
  at: number;
  /** Whether what may be missing is missing, and lists are empty. */
  isLittle: boolean;
}

function made(type: DataType, place: Place): Made {
  const { name, at } = place;
  switch (type.kind) {
    case 'text':
    case 'unknown':
      return textFor(name, at);
    case 'number':
      return at === 0 ? items : at;
    case 'boolean':
      return at % 2 === 0;
    case 'value':
      return typeof type.value === 'string' ? { exact: type.value, type: 'const' } : type.value;
    case 'list':
      return listOf(type.item, place);
    case 'tuple':
      return { exact: type.items.map((item, index) => made(item, { ...place, at: index + 1 })), type: typeText(type) };
    case 'union':
      return oneOf(type.options, place);
    case 'named':
      return named(type.name, name);
    default:
      return record(type.fields, place);
  }
}

function listOf(item: DataType, place: Place): Made {
  if (place.isLittle || heldBy(item, marks.deep)) return [];
  const name = place.name.replace(/ies$/, 'y').replace(/([^s])s$/, '$1');
  return Array.from({ length: items }, (_, at) => made(item, { ...place, name, at: at + 1 }));
}

/** Items of a list take turns. */
function oneOf(options: readonly DataType[], place: Place): Made {
  const real = options.filter((one) => !(one.kind === 'value' && one.value === null) && !heldBy(one, marks.deep));
  if (real.length === 0 || (place.isLittle && real.length < options.length)) return null;
  return made(real[Math.max(place.at - 1, 0) % real.length]!, place);
}

function record(fields: Extract<DataType, { kind: 'record' }>['fields'], place: Place): Made {
  const [first] = fields;
  switch (first?.name) {
    case marks.form:
      throw new Unmakeable(`${place.name} is a form, which only you can make`);
    case marks.deep:
      return new Map();
    case marks.promise:
      return { before: 'Promise.resolve(', held: made(first.type, place), after: ')' };
    case marks.call: {
      const awaited = heldBy(first.type, marks.promise);
      return { before: `${awaited ? 'async ' : ''}() => (`, held: made(awaited ?? first.type, place), after: ')' };
    }
    default: {
      const wanted = fields.filter(({ isOptional }) => !(isOptional && place.isLittle));
      return new Map(wanted.map((field) => [field.name, made(field.type, { ...place, name: field.name })]));
    }
  }
}

/** What a marked record holds. */
function heldBy(type: DataType, mark: string): DataType | undefined {
  return type.kind === 'record' && type.fields[0]?.name === mark ? type.fields[0].type : undefined;
}

function named(type: string, name: string): Made {
  if (type === 'Date') return { before: `new Date('${moment}')`, after: '' };
  if (type === 'URL') return { before: "new URL('https://harbour.example/')", after: '' };
  if (type === 'undefined') return { before: 'undefined', after: '' };
  throw new Unmakeable(`${name} is a ${type}, which only you can make`);
}

/** Words of the name; where the name says what it is, something like that. */
function textFor(name: string, at: number): string {
  const words = name.replace(/[_-]+/g, ' ').replace(/(?<=[\p{Ll}\d])\p{Lu}/gu, (letter) => ` ${letter.toLowerCase()}`);
  const last = words.split(' ').at(-1)!.toLowerCase();
  if (/^e?mail$/.test(last)) return `mail${at === 0 ? '' : at}@harbour.example`;
  if (/^(?:url|href|link|path|base)$/.test(last)) return '/';
  if (/^(?:day|date|from|until|since|today)$/.test(last)) return moment.slice(0, 10);
  if (/^(?:at|time|moment)$/.test(last)) return moment;
  if (/^(?:id|key)$/.test(last)) return `${words.replaceAll(' ', '-').toLowerCase()}${at === 0 ? '' : `-${at}`}`;
  return `${words.slice(0, 1).toUpperCase()}${words.slice(1)}${at === 0 ? '' : ` ${at}`}`;
}

function holdsCode(value: Made): boolean {
  if (value instanceof Map) return [...value.values()].some(holdsCode);
  if (Array.isArray(value)) return value.some(holdsCode);
  return isObject(value) && ('before' in value || holdsCode(value.exact));
}

function isObject(value: Made): value is Code | Exact {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof Map);
}

/** For JSON. */
function plain(_name: string, value: unknown): unknown {
  if (value instanceof Map) return Object.fromEntries(value);
  return isObject(value as Made) && 'exact' in (value as Exact) ? (value as Exact).exact : value;
}

/** As code, with its lines so far from the left. */
function written(value: Made, indent: string, isTyped: boolean): string {
  if (typeof value === 'string') return /['\\\n]/.test(value) ? JSON.stringify(value) : `'${value}'`;
  if (value instanceof Map)
    return block(
      '{',
      [...value].map(([name, one]) => `${key(name)}: ${written(one, `${indent}  `, isTyped)}`),
      '}',
      indent,
    );
  if (Array.isArray(value))
    return block(
      '[',
      value.map((one) => written(one, `${indent}  `, isTyped)),
      ']',
      indent,
    );
  if (isObject(value)) {
    if ('exact' in value) return `${written(value.exact, indent, isTyped)}${isTyped ? ` as ${value.type}` : ''}`;
    return value.before + (value.held === undefined ? '' : written(value.held, indent, isTyped)) + value.after;
  }
  return String(value);
}

function key(name: string): string {
  return /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name) ? name : JSON.stringify(name);
}

/** On one line where it fits. */
function block(opening: string, parts: readonly string[], closing: string, indent: string): string {
  if (parts.length === 0) return opening + closing;
  const space = opening === '{' ? ' ' : '';
  const line = `${opening}${space}${parts.join(', ')}${space}${closing}`;
  if (!line.includes('\n') && indent.length + line.length <= 100) return line;
  return `${opening}\n${parts.map((part) => `${indent}  ${part},\n`).join('')}${indent}${closing}`;
}
