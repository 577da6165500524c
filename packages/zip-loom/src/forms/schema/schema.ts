/** What a form needs of a schema: the interfaces of the Standard Schema specification, and JSON Schema as it comes from there. */

import type { UploadedFile } from '../uploads/uploaded-file.ts';

/** Standard Schema, version 1: validation. */
export interface StandardSchema<Input = unknown, Output = Input> {
  readonly '~standard': {
    readonly version: 1;
    readonly vendor: string;
    readonly validate: (value: unknown) => ValidationResult<Output> | Promise<ValidationResult<Output>>;
    readonly types?: { readonly input: Input; readonly output: Output } | undefined;
    /** Standard JSON Schema, version 1. Missing in libraries that do not have it. */
    readonly jsonSchema?: { readonly input: (options: JSONSchemaOptions) => Record<string, unknown> };
  };
}

export type ValidationResult<Output> =
  | { readonly value: Output; readonly issues?: undefined }
  | { readonly issues: readonly Issue[] };

export interface Issue {
  readonly message: string;
  readonly path?: ReadonlyArray<PropertyKey | { readonly key: PropertyKey }> | undefined;
}

export interface JSONSchemaOptions {
  readonly target: 'draft-2020-12' | 'draft-07' | 'openapi-3.0';
  readonly libraryOptions?: Record<string, unknown>;
}

/** What a schema takes and gives. */
export type InputOf<Schema> = Schema extends StandardSchema<infer Input, unknown> ? Input : Plain;
export type OutputOf<Schema> = Schema extends StandardSchema<infer _Input, infer Output> ? WithUploads<Output> : Plain;

/** What a JSON Schema says of a value is not known to the compiler. */
export type Plain = Record<string, unknown>;

/** Files are what was uploaded. */
export type WithUploads<Model> = { [Field in keyof Model]: FileField<Model[Field]> };
export type FileField<Value> = Value extends File ? UploadedFile : Value extends File[] ? UploadedFile[] : Value;

/** The part of JSON Schema (draft 2020-12) that says something about a control. */
export interface JSONSchema {
  type?: string | string[];
  format?: string;
  enum?: unknown[];
  const?: unknown;
  default?: unknown;
  title?: string;
  description?: string;
  properties?: Record<string, JSONSchema>;
  required?: string[];
  items?: JSONSchema;
  minItems?: number;
  maxItems?: number;
  minLength?: number;
  maxLength?: number;
  pattern?: string;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  multipleOf?: number;
  contentMediaType?: string;
  anyOf?: JSONSchema[];
  oneOf?: JSONSchema[];
  allOf?: JSONSchema[];
  $ref?: string;
  $defs?: Record<string, JSONSchema>;
}

/**
 * The JSON Schema of what a form takes, or `undefined` when the library has none. Types that JSON does not have become `{}`
 * instead of an error for the whole object.
 */
export function jsonSchemaOf(schema: StandardSchema): JSONSchema | undefined {
  const libraryOptions = { unrepresentable: 'any', errorMode: 'ignore' };
  return schema['~standard'].jsonSchema?.input({ target: 'draft-2020-12', libraryOptions }) as JSONSchema | undefined;
}
