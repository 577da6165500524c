/** Forms: definition, schema, binding in pages, reading of submissions. */

export { localizedData } from './bindable-data.ts';
export type { ChoicesOf, FormExchange, Search, SearchedChoice, ShownTexts } from './binding/asked-choices.ts';
export type { ChoiceList, ChoiceLists } from './binding/choice-lists.ts';
export type { BindOptions, FieldErrors } from './binding/content.ts';
export type { Column, Field, FieldControl, FieldSettings, FieldsWanted } from './binding/fields.ts';
export type { PresentFile, ShownFile } from './binding/files.ts';
export type { FormView } from './binding/form-view.ts';
export type { Row } from './binding/shown-rows.ts';
export type { Version } from './binding/version.ts';
export { assertReadable, someForms } from './check-settings.ts';
export { defineForm } from './definition.ts';
export type { Form, FormDefinition, FormViewOf, ModelOf, ModelValue, ReadRequestOptions } from './form.ts';
export { defaultLimits, type Limits } from './limits.ts';
export { formTemplates } from './looks/templates.ts';
export type { ChoiceTexts } from './messages/by-locale.ts';
export type { MessageFacts, MessageText } from './messages/message.ts';
export type { MessageCode, Wording } from './messages/wording.ts';
export { type Messages, wordingFor } from './messages/wording.ts';
export { definitionOf, type Readable, UnsentForm } from './own-form.ts';
export { preparedData } from './prepared-data.ts';
export {
  type Body,
  type Entries,
  type Entry,
  entriesOf,
  type FileEntry,
  readBody,
  valuesOf,
} from './reading/entries.ts';
export { fileRuleOf } from './reading/file-rules.ts';
export { type AnswerForError, messagesAnswer } from './reading/messages-answer.ts';
export { readForm, readQuery, refusedForm } from './reading/read.ts';
export type { SentView } from './reading/sent.ts';
export { type Accepted, type Refused, refusedStatus, type Sent, type SentStatus } from './reading/sent.ts';
export { handWritten, together } from './reading/shown-fields.ts';
export type {
  FileField,
  InputOf,
  Issue,
  JSONSchema,
  JSONSchemaOptions,
  OutputOf,
  Plain,
  StandardSchema,
  ValidationResult,
  WithUploads,
} from './schema/schema.ts';
export type { Choice, Kind } from './schema/shape.ts';
export type { FormOptions } from './settings.ts';
export { type FormState, readState, readUnprovedState } from './state.ts';
export type { Step, StepSettings } from './steps.ts';
export { type FileRule, fileFault } from './uploads/file-types.ts';
export { Intake } from './uploads/intake.ts';
export { FileKeeper, keptFor } from './uploads/keeper.ts';
export { BodyFault, type Part, type PartContent, type Parts } from './uploads/parts.ts';
export type { FilePlatform } from './uploads/platform.ts';
export { isUploadKey, type StoredUpload, type UploadInfo, type UploadStore } from './uploads/store.ts';
export { TakenFiles } from './uploads/taken-files.ts';
export { UploadedFile } from './uploads/uploaded-file.ts';
