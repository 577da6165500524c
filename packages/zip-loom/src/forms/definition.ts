/** `defineForm`: one definition for the page, the browser’s checks, the reading and the messages. */
import { anyRecord, LoomError, messageOf } from '../diagnostics/index.ts';
import { ownOptions } from '../security/index.ts';
import type { BindOptions } from './binding/content.ts';
import { assertFieldNames, assertFormOptions, assertSteps } from './check-settings.ts';
import { formDiagnostic } from './diagnostics.ts';
import type { FormDefinition } from './form.ts';
import { defaultLimits } from './limits.ts';
import { type OwnDefinition, UnsentForm } from './own-form.ts';
import { readQuery, readRequest } from './reading/read.ts';
import { isJSONSchema, validating } from './schema/json-schema.ts';
import { withoutJSONTexts } from './schema/model-values.ts';
import { type InputOf, type JSONSchema, jsonSchemaOf, type OutputOf, type StandardSchema } from './schema/schema.ts';
import type { Group } from './schema/shape.ts';
import { shapeFromSchema } from './schema/shape-from-schema.ts';
import type { FormOptions, FormSettings } from './settings.ts';

/**
 * Defines a form.
 * @param name unique among the forms of a page; part of all ids
 * @param schema any Standard Schema of an object, or a JSON Schema of one
 * @throws {LoomError} for a schema that gives no JSON Schema, where `shape` is missing; for a field that nobody can fill in; for names and
 *   options that are none
 * @example const boatForm = defineForm('boat', z.object({ name: z.string().min(2) }));
 */
export function defineForm<const Name extends string, Schema extends StandardSchema | JSONSchema>(
  name: Name,
  schema: Schema,
  given: FormOptions = {},
): FormDefinition<Name, InputOf<Schema>, OutputOf<Schema>> {
  if (typeof name !== 'string' || !/^[a-z][\w-]*$/i.test(name))
    throw new LoomError(formDiagnostic('invalid-form-name', { name: messageOf(name) }));
  const standard = isJSONSchema(schema) ? validating(schema) : schema;
  if (!isSchema(standard)) throw new LoomError(formDiagnostic('invalid-schema', { form: name, kind: 'none' }));
  assertFormOptions(given);
  const options = ownOptions(given);
  const limitsInForce = options.limits ? ownOptions({ ...defaultLimits, ...options.limits }) : defaultLimits;
  const settings = ownOptions<FormSettings>({ ...options, name, schema: standard, limitsInForce });
  let cached: { shape: Group; json: string; changes: boolean } | undefined;
  const makeShape = () => {
    const json = options.shape ?? jsonSchemaOf(standard);
    if (!json) throw new LoomError(formDiagnostic('invalid-schema', { form: name, kind: 'no-json' }));
    const text = JSON.stringify(json);
    // The very same shape as before keeps what was worked out for it.
    if (cached?.json === text) return cached;
    return {
      shape: shapeFromSchema(json, { form: name, kinds: options.kinds ?? {} }),
      json: text,
      changes: text.includes('"default"'),
    };
  };
  // A default may be worked out anew each time, as today’s date.
  const shape = () => {
    if (!cached || cached.changes) cached = makeShape();
    return cached.shape;
  };
  assertFieldNames(name, shape(), options);
  return madeDefinition<Name, InputOf<Schema>, OutputOf<Schema>>(name, settings, shape);
}

function madeDefinition<Name extends string, Input, Output>(
  name: Name,
  settings: FormSettings,
  shape: () => Group,
): OwnDefinition<Name, Input, Output> {
  const make = (model: unknown, bindOptions: BindOptions | undefined) => {
    if (model !== undefined && model !== null && !anyRecord.holds(model))
      throw new LoomError(formDiagnostic('invalid-model', { form: name, given: messageOf(model) }));
    const given = withoutJSONTexts(shape(), model ?? {});
    return new UnsentForm<Name, Input, Output>(definition, given, bindOptions ?? {});
  };
  const definition: OwnDefinition<Name, Input, Output> = {
    name,
    settings,
    shape,
    blank: (values, bindOptions) => make(values, bindOptions),
    from: (model, bindOptions) => make(model, bindOptions),
    read: (request, readOptions) => readRequest(definition, request, readOptions),
    readQuery: (url) => readQuery(definition, url),
    steps(steps) {
      assertSteps(name, shape(), steps);
      return madeDefinition(name, ownOptions<FormSettings>({ ...settings, steps }), shape);
    },
  };
  return definition;
}

/** Standard Schema, version 1: an object or a function with this property. */
function isSchema(value: unknown): value is StandardSchema {
  const isHolder = (typeof value === 'object' && value !== null) || typeof value === 'function';
  return isHolder && '~standard' in value && typeof value['~standard'] === 'object';
}
