/** What can be wrong with definitions of forms, and with how a template uses a form. */
import { catalogue, didYouMean, type Near, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'unknown-field': worded<{ form: string; field: string; nearest: Near | undefined; known: readonly string[] }>({
    message: ({ form, field }) => `The form “${form}” has no field “${field.slice(0, 80)}”.`,
    hint: ({ nearest, known }) => didYouMean(nearest) ?? `It has ${known.join(', ')}.`,
    examples: [
      { form: 'boat', field: 'nmae', nearest: { name: 'name', isSure: true }, known: [] },
      { form: 'boat', field: 'owner', nearest: undefined, known: ['name', 'length'] },
    ],
  }),
  'unknown-list': worded<{ form: string; field: string }>({
    message: ({ form, field }) => `The field “${field.slice(0, 80)}” of the form “${form}” is not a list.`,
    hint: () => 'Only lists have items; a group is written field by field, as address.town.',
    examples: [{ form: 'boat', field: 'name' }],
  }),
  'missing-choices': worded<{ form: string; field: string }>({
    message: ({ form, field }) => `The choices of “${field.slice(0, 80)}” of the form “${form}” were not asked for.`,
    hint: () =>
      'Give the form at the top of the data of exchange.respond, or what “await exchange.prepare(form)” gives; without an exchange, give choices when the form is made.',
    examples: [{ form: 'boat', field: 'berth' }],
  }),
  'invalid-choices': worded<{ field: string; given: string }>({
    message: ({ field, given }) =>
      `The choices of “${field.slice(0, 80)}” are no list of choices: ${given.slice(0, 80)}.`,
    hint: () => 'Give a list of texts or numbers, or of objects with value and label.',
    examples: [{ field: 'berth', given: 'undefined' }],
  }),
  'invalid-step': worded<{ form: string; field: string }>({
    message: ({ form, field }) => `The field “${field.slice(0, 80)}” of the form “${form}” cannot be in this step.`,
    hint: () =>
      'Each step names fields at the top of the form, and each field is in one step: a group or a list goes whole.',
    examples: [{ form: 'stay', field: 'crew[].name' }],
  }),
  'unknown-look': worded<{ look: string; nearest: Near | undefined; known: readonly string[] }>({
    message: ({ look }) => `There is no look “${look.slice(0, 80)}”.`,
    hint: ({ nearest, known }) =>
      didYouMean(nearest) ?? `There are ${known.join(', ')}; a look of your own is a folder, looks/name.`,
    examples: [
      { look: 'stackd', nearest: { name: 'stacked', isSure: true }, known: [] },
      { look: 'grid', nearest: undefined, known: ['stacked', 'inline', 'table'] },
    ],
  }),
  'invalid-control': worded<{ inside: readonly string[] }>({
    message: () => 'A group of fields has no control of its own.',
    hint: ({ inside }) => `Write a control for each field in it: ${inside.join(', ') || 'it has none'}.`,
    examples: [{ inside: ['street', 'town'] }],
  }),
  'invalid-field': worded<{ form: string; field: string }>({
    message: ({ form, field }) =>
      `Nobody can fill in the field “${field}” of the form “${form}”: its schema does not say what is typed there.`,
    hint: ({ field }) =>
      `Say it with kinds: { '${field}': 'date' } (or datetime-local, time, bigint, number, text and the like), or leave the field out of the schema.`,
    examples: [{ form: 'boat', field: 'insuredUntil' }],
  }),
  'invalid-model': worded<{ form: string; given: string }>({
    message: ({ form, given }) =>
      `The form “${form}” cannot show “${given.slice(0, 40)}”: that is no object of fields.`,
    hint: () => 'Give a model with the values of the fields, or nothing for a blank form.',
    examples: [{ form: 'boat', given: '17' }],
  }),
  'invalid-form-name': worded<{ name: string }>({
    message: ({ name }) => `“${name.slice(0, 80)}” cannot be the name of a form.`,
    hint: () => 'Begin with a letter, and use letters, digits and hyphens: the name is part of ids.',
    examples: [{ name: 'new boat' }],
  }),
  'invalid-schema': worded<{ form: string; kind: 'none' | 'no-json' | 'no-object' }>({
    message: ({ form, kind }) => {
      switch (kind) {
        case 'none':
          return `What was given as the schema of the form “${form}” is not one.`;
        case 'no-json':
          return `The schema of the form “${form}” gives no JSON Schema.`;
        case 'no-object':
          return `The schema of the form “${form}” does not describe an object.`;
      }
    },
    hint: ({ kind }) => {
      switch (kind) {
        case 'none':
          return 'Give a schema of a library that follows the Standard Schema specification.';
        case 'no-json':
          return 'Give the shape of its input as JSON Schema: the option “shape”.';
        case 'no-object':
          return 'Give an object of fields.';
      }
    },
    examples: [
      { form: 'boat', kind: 'none' },
      { form: 'boat', kind: 'no-json' },
      { form: 'boat', kind: 'no-object' },
    ],
  }),
  'refused-reading': sentence(
    'Nobody looked for the token of this form.',
    'Read the form through an exchange, which checks it, or say token: false.',
  ),
};

export const formDiagnostic = catalogue(wordings);
