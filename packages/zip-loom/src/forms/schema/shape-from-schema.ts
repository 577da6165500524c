/** JSON Schema (draft 2020-12) → shape. */

import { LoomError } from '../../diagnostics/index.ts';
import { ownValue } from '../../security/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { takesTimes, writtenForm } from './dates.ts';
import type { JSONSchema } from './schema.ts';
import type { Choice, Group, Kind, List, Shape, Value } from './shape.ts';

/** What the definition says besides the schema, by path. */
export interface ShapeOptions {
  /** The name of the form, for messages. */
  form: string;
  /** Kinds that the schema cannot express: `{ when: 'date' }`. */
  kinds?: Readonly<Record<string, Kind>>;
}

/** Schemas that refer to themselves are followed so far, which is deeper than any name that is read. */
const deepest = 12;

/**
 * The shape of an object schema.
 * @throws {LoomError} for a schema of anything else, and for a field that nobody can fill in
 */
export function shapeFromSchema(schema: JSONSchema, options: ShapeOptions): Group {
  const shape = new Reader(schema, options).shape(schema, '', true, 0);
  if (shape.shape === 'group') return shape;
  throw new LoomError(formDiagnostic('invalid-schema', { form: options.form, kind: 'no-object' }));
}

class Reader {
  private readonly root: JSONSchema;
  private readonly options: ShapeOptions;

  constructor(root: JSONSchema, options: ShapeOptions) {
    this.root = root;
    this.options = options;
  }

  shape(written: JSONSchema, path: string, required: boolean, depth: number): Shape {
    const { schema, nullable } = this.simplify(written);
    const common = {
      required: required && schema.default === undefined,
      nullable,
      fallback: schema.default,
      title: schema.title,
      description: schema.description,
    };
    const type = typeOf(schema);
    const given = ownValue(this.options.kinds, path);
    if (!given && type === 'object' && schema.properties && depth < deepest) {
      const needed = new Set(schema.required ?? []);
      const fields = Object.entries(schema.properties).map(([name, field]): [string, Shape] => [
        name,
        this.shape(field, path ? `${path}.${name}` : name, needed.has(name), depth + 1),
      ]);
      return { shape: 'group', fields: new Map(fields), ...common };
    }
    if (!given && type === 'array') {
      const item = this.shape(schema.items ?? {}, `${path}[]`, true, depth + 1);
      return { shape: 'list', item, minimum: schema.minItems, maximum: schema.maxItems, ...common };
    }
    return this.value(schema, path, given, common, depth);
  }

  private value(
    schema: JSONSchema,
    path: string,
    given: Kind | undefined,
    common: Omit<List, 'shape' | 'item' | 'minimum' | 'maximum'>,
    depth: number,
  ): Value {
    const choices = choicesOf(schema);
    const base = { shape: 'value', choices, typed: choices && typedChoices(schema), ...common } as const;
    // What is deeper than any name that is read has no control.
    const kind = given ?? (choices ? 'choice' : kindOf(schema)) ?? (depth < deepest ? this.refuse(path) : 'text');
    const isText = schema.type === 'string';
    switch (kind) {
      case 'text':
      case 'long-text':
      case 'password':
      case 'tel':
      case 'email':
      case 'url': {
        // The expression of a format means something else in a browser: such controls check themselves.
        const checksItself = kind === 'email' || kind === 'url' || Boolean(schema.format);
        const { minLength, maxLength } = schema;
        const pattern = checksItself ? undefined : schema.pattern;
        return { kind, minimumLength: minLength, maximumLength: maxLength, pattern, ...base };
      }
      case 'number':
      case 'integer': {
        // What a schema library prints for “any safe integer” is no limit to show.
        const minimum = schema.minimum === Number.MIN_SAFE_INTEGER ? undefined : schema.minimum;
        const maximum = schema.maximum === Number.MAX_SAFE_INTEGER ? undefined : schema.maximum;
        return {
          kind,
          minimum: minimum ?? schema.exclusiveMinimum,
          maximum: maximum ?? schema.exclusiveMaximum,
          isAbove: minimum === undefined && schema.exclusiveMinimum !== undefined,
          isBelow: maximum === undefined && schema.exclusiveMaximum !== undefined,
          step: schema.multipleOf ?? (kind === 'integer' ? 1 : undefined),
          ...base,
        };
      }
      case 'date':
      case 'time':
      case 'datetime-local':
      case 'month':
      case 'week':
        if (!isText) return { kind, asDate: schema.type === undefined, written: 'as-typed', isGuess: false, ...base };
        return {
          kind,
          asDate: false,
          written: writtenForm(kind, schema) ?? this.refuse(path),
          isGuess: schema.pattern === undefined && (kind === 'time' || kind === 'datetime-local'),
          ...base,
        };
      case 'bigint':
        return { kind, ...base };
      case 'boolean':
        return { kind, mustBeTrue: schema.const === true, ...base };
      case 'choice':
        return { kind, ...base };
      case 'file':
        return { kind, accept: mediaTypes(schema), maximumSize: schema.maxLength, ...base };
    }
  }

  private refuse(path: string): never {
    throw new LoomError(formDiagnostic('invalid-field', { form: this.options.form, field: path }));
  }

  /** Follows references, merges `allOf`, and takes `null` out of unions. */
  private simplify(written: JSONSchema): { schema: JSONSchema; nullable: boolean } {
    let schema = this.follow(written);
    for (const part of schema.allOf ?? []) schema = both(schema, this.simplify(part).schema);
    let nullable = false;
    if (Array.isArray(schema.type)) {
      nullable = schema.type.includes('null');
      const others = schema.type.filter((type) => type !== 'null');
      schema = { ...schema, type: others.length === 1 ? others[0]! : others };
    }
    // The alternatives of a file are its media types.
    const union = isFile(schema) ? undefined : (schema.anyOf ?? schema.oneOf);
    if (union) {
      const members = union.map((member) => this.follow(member));
      const others = members.filter((member) => member.type !== 'null');
      nullable ||= others.length < members.length;
      const { anyOf: _anyOf, oneOf: _oneOf, ...rest } = schema;
      const [only] = others;
      if (others.length === 1 && only) {
        const inner = this.simplify(only);
        return { schema: { ...inner.schema, ...rest }, nullable: nullable || inner.nullable };
      }
      schema = { ...rest, ...unionOf(others) };
    }
    return { schema, nullable };
  }

  private follow(schema: JSONSchema): JSONSchema {
    let found = schema;
    for (let steps = 0; found.$ref !== undefined && steps < deepest; steps++) {
      const { $ref, ...beside } = found;
      const target = $ref === '#' ? this.root : this.root.$defs?.[$ref.replace(/^#\/\$defs\//, '')];
      found = { ...(target ?? {}), ...beside };
    }
    return found;
  }
}

/** What holds by two schemas at once: of fields, all of both. */
function both(one: JSONSchema, other: JSONSchema): JSONSchema {
  const properties = { ...one.properties, ...other.properties };
  const required = [...(one.required ?? []), ...(other.required ?? [])];
  const isGroup = Object.keys(properties).length > 0;
  return { ...one, ...other, ...(isGroup ? { properties, required } : {}) };
}

/** Several alternatives that are all fixed values are choices; else all that can be said is a common type. */
function unionOf(members: JSONSchema[]): JSONSchema {
  const values = members.map((member) => (member.const !== undefined ? [member.const] : member.enum));
  if (values.every((list) => list !== undefined)) {
    return { enum: values.flat(), ...(members.every((member) => member.title) ? { oneOf: members } : {}) };
  }
  const types = new Set(members.map((member) => member.type));
  if (members.every(isFile) && members[0]) return { ...members[0], anyOf: members };
  // What is typed is text: where that is one of the alternatives, it will do.
  if (types.has('string')) return { type: 'string' };
  const [only] = types;
  return types.size === 1 && typeof only === 'string' ? { type: only } : {};
}

function typeOf(schema: JSONSchema): string | undefined {
  if (typeof schema.type === 'string') return schema.type;
  return schema.properties ? 'object' : schema.items ? 'array' : undefined;
}

const formats: Readonly<Record<string, Kind>> = {
  email: 'email',
  uri: 'url',
  url: 'url',
  date: 'date',
  time: 'time',
  'date-time': 'datetime-local',
};

/** How a field is typed in; `undefined` where the schema does not tell, or tells of what cannot be. */
function kindOf(schema: JSONSchema): Kind | undefined {
  if (isFile(schema)) return 'file';
  if (schema.const === true || isBoolean(schema)) return 'boolean';
  const types = Array.isArray(schema.type) ? schema.type : [schema.type];
  if (types.includes('string'))
    return (schema.format && ownValue(formats, schema.format)) || (takesTimes(schema) ? 'time' : 'text');
  if (types.every((type) => type === 'number' || type === 'integer'))
    return types.length === 1 ? (types[0] as Kind) : 'number';
  return types.length === 1 && types[0] === 'boolean' ? 'boolean' : undefined;
}

function isFile(schema: JSONSchema): boolean {
  return schema.format === 'binary';
}

/** The media types that a file may have: one, or several as alternatives. */
function mediaTypes(schema: JSONSchema): string[] | undefined {
  const found = [schema, ...(schema.anyOf ?? [])].flatMap(({ contentMediaType }) => contentMediaType ?? []);
  return found.length > 0 ? found : undefined;
}

function choicesOf(schema: JSONSchema): Choice[] | undefined {
  if (isBoolean(schema)) return undefined;
  const values = schema.enum ?? (schema.const !== undefined && schema.const !== true ? [schema.const] : undefined);
  if (!values) return undefined;
  const titles = new Map((schema.oneOf ?? []).map((member) => [String(member.const), member.title]));
  return values
    .filter((value) => value !== null)
    .map((value) => ({ value: String(value), label: titles.get(String(value)) ?? String(value) }));
}

/** Yes or no as two fixed values, which some libraries make of it. */
function isBoolean({ enum: values }: JSONSchema): boolean {
  return values !== undefined && values.length === 2 && values.includes(true) && values.includes(false);
}

function typedChoices(schema: JSONSchema): ReadonlyMap<string, unknown> | undefined {
  const values = (schema.enum ?? [schema.const]).filter((value) => typeof value !== 'string');
  return values.length > 0 ? new Map(values.map((value) => [String(value), value])) : undefined;
}
