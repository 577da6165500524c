/** Forms: definition, schema, binding in pages, reading of submissions. */
export { type BindOptions, type FieldErrors, FormView } from './binding/form-view.ts';
export type { ChoiceLists, Field } from './binding/labels.ts';
export { formTemplates } from './binding/templates.ts';
export { assertReadable, someForms } from './check-settings.ts';
export { defineForm } from './definition.ts';
export { Form, type FormDefinition, type FormViewOf, type ModelOf } from './form.ts';
export { defaultLimits, type Limits } from './limits.ts';
export type { Messages } from './messages.ts';
export { type Body, type Entries, entriesOf, readBody } from './reading/entries.ts';
export { type Readable, readForm, readQuery, refusedForm } from './reading/read.ts';
export { type Accepted, type Refused, refusedStatus, type Sent, type SentStatus } from './reading/sent.ts';
export type { StandardSchema } from './schema/schema.ts';
export type { FormOptions } from './settings.ts';
