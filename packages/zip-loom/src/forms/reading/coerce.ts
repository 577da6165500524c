/** Texts → typed values, by the shape. What cannot be read is an error at its field and keeps its text. */

import type { MessageCode } from '../messages/wording.ts';
import { inForm, isValidDate, toDate } from '../schema/dates.ts';
import { modelValue } from '../schema/model-values.ts';
import { isDecimal } from '../schema/numbers.ts';
import type { Path } from '../schema/paths.ts';
import type { Raw, RawGroup, RawList, RawValue } from '../schema/raw.ts';
import type { Choice, DateValue, Group, List, Shape, Value, WrittenForm } from '../schema/shape.ts';

/** What reading gave: a value for the schema, and what was wrong, by path. */
export interface Coerced {
  value: unknown;
  errors: CoercionError[];
}

interface CoercionError {
  path: Path;
  code: MessageCode;
  label: string;
  limit?: number | undefined;
}

export interface CoerceOptions {
  /** Whether the empty text of a field is a value. */
  keepsEmpty: (path: Path) => boolean;
  /** Whether whitespace around the text is shed. */
  trims: (path: Path, shape: Value) => boolean;
  /** Choices, from data or of the schema. */
  choicesAt: (path: Path, shape: Value) => readonly Choice[] | undefined;
  labelAt: (path: Path, shape: Shape) => string;
  /** What a text means in a field that is searched: its value, or `null` where nothing was found; `undefined` for any other field. */
  meaningOf: ((path: Path) => string | null | undefined) | undefined;
  /** How a time is written for the schema. */
  formOf: (path: Path, shape: DateValue) => WrittenForm;
}

/** Coerces a whole form. `model` is what the form was shown with. */
export function coerceForm(form: Group, raw: RawGroup, model: unknown, options: CoerceOptions): Coerced {
  const coercion = new Coercion(options);
  return { value: coercion.group(form, raw, model, []), errors: coercion.errors };
}

class Coercion {
  readonly errors: CoercionError[] = [];
  private readonly options: CoerceOptions;

  constructor(options: CoerceOptions) {
    this.options = options;
  }

  /** Fields of the model that the form does not have do not reach the value. */
  group(shape: Group, raw: RawGroup | undefined, model: unknown, path: Path): Record<string, unknown> {
    const value: Record<string, unknown> = {};
    for (const [name, field] of shape.fields) {
      const found = this.field(field, raw?.fields.get(name), ownField(model, name), [...path, name]);
      if (found !== undefined) value[name] = found;
    }
    return value;
  }

  private field(shape: Shape, raw: Raw | undefined, model: unknown, path: Path): unknown {
    switch (shape.shape) {
      case 'group':
        if (raw?.raw !== 'group' && (model === undefined || model === null)) {
          if (model === null && shape.nullable) return null;
          if (!shape.required && !holdsDefaults(shape)) return undefined;
        }
        return this.group(shape, raw?.raw === 'group' ? raw : undefined, model, path);
      case 'list':
        return this.list(shape, raw?.raw === 'list' ? raw : undefined, model, path);
      case 'value':
        return this.value(shape, raw?.raw === 'value' ? raw : undefined, model, path);
    }
  }

  private list(shape: List, raw: RawList | undefined, model: unknown, path: Path): unknown {
    if (!raw) {
      // As for a single one: files of the model are not what was sent.
      if (shape.item.shape === 'value' && shape.item.kind === 'file') return shape.required ? [] : undefined;
      if (Array.isArray(model))
        return model.map((item, index) => this.field(shape.item, undefined, item, [...path, index]));
      if (model !== undefined && model !== null) return model;
      if (model === null && shape.nullable) return null;
      return shape.required ? [] : undefined;
    }
    const limit = shape.maximum;
    if (raw.tooLong) this.error(path, 'too-many', shape, limit ?? raw.items.size);
    const items = [...raw.items.values()];
    return items.map((item, index) => this.field(shape.item, item, itemOf(model, raw.rows[index]), [...path, index]));
  }

  private value(shape: Value, raw: RawValue | undefined, model: unknown, path: Path): unknown {
    if (shape.kind === 'file') return this.file(shape, raw, path);
    if (!raw || raw.texts.length === 0) return this.notSent(shape, model, path);
    if (raw.isInexact) return this.missing(path, shape.kind === 'integer' ? 'integer' : 'number', shape);
    // The companion comes first; of several texts for one field the last counts.
    const sent = shape.kind === 'boolean' ? wishedBoolean(raw.texts) : raw.texts.at(-1)!;
    const lines = sent.includes('\r') ? sent.replace(/\r\n?/g, '\n') : sent;
    const text = this.options.trims(path, shape) ? lines.trim() : lines;
    if (text === '') return this.sentEmpty(shape, path);
    const meant = this.options.meaningOf?.(path);
    return meant === null ? this.missing(path, 'choice', shape) : this.read(shape, meant ?? text, path);
  }

  /** A file of the model is not one that was sent: it is kept by the handler, which is given none. */
  private file(shape: Value, raw: RawValue | undefined, path: Path): unknown {
    const sent = raw?.files?.at(-1);
    if (sent?.file) return sent.file;
    if (sent?.fault) this.error(path, sent.fault.code, shape, sent.fault.limit);
    // Text in place of a file is what a form sends that was made for another encoding.
    else if (raw?.texts.some((text) => text !== '')) this.error(path, 'not-a-file', shape);
    else return this.nothing(shape, path);
    return undefined;
  }

  private notSent(shape: Value, model: unknown, path: Path): unknown {
    const known = modelValue(shape, model, (moment) => this.options.formOf(path, moment));
    if (known !== undefined) return known;
    // The schema applies its own default, which may change from one call to the next.
    if (shape.fallback !== undefined) return undefined;
    if (shape.kind !== 'boolean') return this.nothing(shape, path);
    if (!shape.mustBeTrue) return false;
    return shape.required ? this.missing(path, 'must-be-true', shape) : undefined;
  }

  private sentEmpty(shape: Value, path: Path): unknown {
    if (this.options.keepsEmpty(path)) return '';
    return this.nothing(shape, path);
  }

  private nothing(shape: Value, path: Path): unknown {
    if (!shape.required) return undefined;
    return shape.nullable ? null : this.missing(path, 'required', shape);
  }

  private missing(path: Path, code: MessageCode, shape: Shape): undefined {
    this.error(path, code, shape);
    return undefined;
  }

  private read(shape: Value, text: string, path: Path): unknown {
    // Lengths come before anything that could take long, as the expressions of a schema.
    if ('maximumLength' in shape && shape.maximumLength !== undefined && isLonger(text, shape.maximumLength)) {
      this.error(path, 'too-long', shape, shape.maximumLength);
      return undefined;
    }
    switch (shape.kind) {
      case 'number':
      case 'integer':
        return this.number(shape, text, path);
      case 'boolean': {
        const value = booleanOf(text);
        if (value === undefined) return this.missing(path, 'boolean', shape);
        return shape.mustBeTrue && !value ? this.missing(path, 'must-be-true', shape) : value;
      }
      case 'date':
      case 'time':
      case 'datetime-local':
      case 'month':
      case 'week':
        if (!isValidDate(shape.kind, text)) return this.missing(path, shape.kind, shape);
        return shape.asDate ? toDate(shape.kind, text) : inForm(shape.kind, text, this.options.formOf(path, shape));
      case 'bigint':
        // Reading a number of many digits takes long.
        return text.length <= mostDigits && /^-?\d+$/.test(text) ? BigInt(text) : this.missing(path, 'integer', shape);
      default: {
        const choices = this.options.choicesAt(path, shape);
        if (choices && !choices.some((choice) => choice.value === text)) return this.missing(path, 'choice', shape);
        return shape.typed?.has(text) ? shape.typed.get(text) : text;
      }
    }
  }

  private number(shape: Value, text: string, path: Path): unknown {
    const value = isDecimal(text) ? Number(text) : Number.NaN;
    if (!Number.isFinite(value)) return this.missing(path, shape.kind === 'integer' ? 'integer' : 'number', shape);
    if (shape.kind === 'integer' && !Number.isSafeInteger(value)) return this.missing(path, 'integer', shape);
    if (Number.isInteger(value) && !Number.isSafeInteger(value)) return this.missing(path, 'number', shape);
    const choices = this.options.choicesAt(path, shape);
    if (choices && !choices.some((choice) => choice.value === text)) return this.missing(path, 'choice', shape);
    return value;
  }

  private error(path: Path, code: MessageCode, shape: Shape, limit?: number): void {
    this.errors.push({ path, code, label: this.options.labelAt(path, shape), limit });
  }
}

const mostDigits = 1000;

/** Whether a text has more characters than that; a surrogate pair is one. */
function isLonger(text: string, limit: number): boolean {
  if (text.length <= limit) return false;
  let left = limit;
  for (const _ of text) if (left-- === 0) return true;
  return false;
}

/** The companion’s `false` before a `true` loses; anything else is left to be read. */
function wishedBoolean(texts: readonly string[]): string {
  return (
    texts.find((text) => booleanOf(text) === undefined && text !== '') ??
    texts.find((text) => booleanOf(text) === true) ??
    texts.at(-1)!
  );
}

function booleanOf(text: string): boolean | undefined {
  switch (text.toLowerCase()) {
    case 'on':
    case 'true':
    case '1':
    case 'yes':
      return true;
    case 'off':
    case 'false':
    case '0':
    case 'no':
      return false;
    default:
      return undefined;
  }
}

function holdsDefaults(group: Group): boolean {
  return [...group.fields.values()].some((field) => field.fallback !== undefined);
}

function ownField(model: unknown, name: string): unknown {
  return typeof model === 'object' && model !== null && Object.hasOwn(model, name)
    ? (model as Record<string, unknown>)[name]
    : undefined;
}

function itemOf(model: unknown, row: number | undefined): unknown {
  return Array.isArray(model) && row !== undefined ? model[row] : undefined;
}
