/** `defineForm`: one definition for the page, the browser’s checks, the reading and the messages. */
import { ownOptions } from '../security/index.ts';
import { Form, type FormDefinition } from './form.ts';
import { defaultLimits } from './limits.ts';
import { readQuery, readRequest } from './reading/read.ts';
import { type InputOf, jsonSchemaOf, type OutputOf, type StandardSchema } from './schema/schema.ts';
import type { Group } from './schema/shape.ts';
import { shapeFromSchema } from './schema/shape-from-schema.ts';
import type { FormOptions, FormSettings } from './settings.ts';

/**
 * Defines a form.
 * @param name unique among the forms of a page; part of all ids
 * @param schema any Standard Schema of an object
 * @throws {TypeError} when the schema’s library gives no JSON Schema and `shape` is missing
 * @example const boatForm = defineForm('boat', z.object({ name: z.string().min(2) }));
 */
export function defineForm<const Name extends string, Schema extends StandardSchema>(
  name: Name,
  schema: Schema,
  given: FormOptions = {},
): FormDefinition<Name, InputOf<Schema>, OutputOf<Schema>> {
  const options = ownOptions(given);
  if (!/^[a-z][\w-]*$/i.test(name))
    throw new TypeError(`“${name}” cannot be the name of a form: use letters, digits and hyphens.`);
  const limitsInForce = ownOptions({ ...defaultLimits, ...options.limits });
  const settings = ownOptions<FormSettings>({ ...options, name, schema, limitsInForce });
  let cached: { shape: Group; json: string; changes: boolean } | undefined;
  const makeShape = () => {
    const json = options.shape ?? jsonSchemaOf(schema);
    if (!json) throw new TypeError(`The schema of the form “${name}” gives no JSON Schema; pass one as “shape”.`);
    const text = JSON.stringify(json);
    // The very same shape as before keeps what was worked out for it.
    if (cached?.json === text) return cached;
    return {
      shape: shapeFromSchema(json, { kinds: options.kinds ?? {} }),
      json: text,
      changes: text.includes('"default"'),
    };
  };
  type Input = InputOf<Schema>;
  type Output = OutputOf<Schema>;
  const definition: FormDefinition<Name, Input, Output> = {
    name,
    settings,
    // A default may be worked out anew each time, as today’s date.
    shape: () => {
      if (!cached || cached.changes) cached = makeShape();
      return cached.shape;
    },
    blank: (values = {}, bindOptions = {}) => new Form<Name, Input, Output>(definition, values, bindOptions),
    from: (model, bindOptions = {}) => new Form<Name, Input, Output>(definition, model, bindOptions),
    read: (request, readOptions) => readRequest(definition, request, readOptions),
    readQuery: (url) => readQuery(definition, url),
  };
  definition.shape();
  return definition;
}
