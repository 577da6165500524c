/** A plain JSON Schema as a schema of forms. It is validated with Ajv, which is loaded when a form is read. */
import type { ValidateFunction } from 'ajv/dist/2020.js';
import { fromPackages } from '../../diagnostics/index.ts';
import type { Issue, JSONSchema, StandardSchema } from './schema.ts';

/** Whether a value is a JSON Schema of an object, and no schema of a library. */
export function isJSONSchema(value: unknown): value is JSONSchema {
  if (typeof value !== 'object' || value === null || '~standard' in value) return false;
  return '$ref' in value || 'properties' in value || 'allOf' in value || ('type' in value && value.type === 'object');
}

/** What validates by a JSON Schema. */
export function validating(schema: JSONSchema): StandardSchema<Record<string, unknown>> {
  let compiled: Promise<ValidateFunction> | undefined;
  return {
    '~standard': {
      version: 1,
      vendor: 'json-schema',
      async validate(value) {
        compiled ??= compile(schema);
        const validate = await compiled;
        if (validate(value)) return { value: value as Record<string, unknown> };
        return { issues: (validate.errors ?? []).map((error) => issueOf(error, value)) };
      },
      jsonSchema: { input: () => schema as Record<string, unknown> },
    },
  };
}

async function compile(schema: JSONSchema): Promise<ValidateFunction> {
  const [{ Ajv2020 }, formats] = await fromPackages('A form defined by plain JSON Schema', ['ajv', 'ajv-formats'], () =>
    Promise.all([import('ajv/dist/2020.js'), import('ajv-formats')]),
  );
  const ajv = new Ajv2020({ allErrors: true, strict: false, useDefaults: true });
  formats.default.default(ajv);
  // Controls for times have no zone; RFC 3339 §5.6 asks for one.
  ajv.addFormat('time', /^\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d)?$/i);
  return ajv.compile(withoutFiles(schema) as object);
}

/** Files are no JSON: they are looked at when they are taken. Which draft is meant makes no difference to what forms use. */
function withoutFiles(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutFiles);
  if (typeof schema !== 'object' || schema === null) return schema;
  if ('format' in schema && schema.format === 'binary') return {};
  const entries = Object.entries(schema).filter(([name]) => name !== '$schema');
  return Object.fromEntries(entries.map(([name, value]) => [name, withoutFiles(value)]));
}

function issueOf(
  { instancePath, keyword, params, message = '' }: NonNullable<ValidateFunction['errors']>[number],
  value: unknown,
): Issue {
  // A JSON pointer (RFC 6901 §4).
  const steps = instancePath
    .split('/')
    .slice(1)
    .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'));
  if (keyword === 'required') steps.push(String(params['missingProperty']));
  let at = value;
  const path = steps.map((step) => {
    const isIndex = Array.isArray(at);
    at = typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[step] : undefined;
    return isIndex ? Number(step) : step;
  });
  return { message, path };
}
