/** What a definition says besides its schema, checked when it is made: no name and no kind is taken in silence. */
import {
  anyFunction,
  anyText,
  anything,
  assertArgument,
  assertOptions,
  either,
  groupOf,
  LoomError,
  listOf,
  messageOf,
  nearest,
  numberFrom,
  type OptionKind,
  type OptionTable,
  oneOf,
  recordOf,
  someText,
  trueOrFalse,
  wholeNumberFrom,
} from '../diagnostics/index.ts';
import { isLocale } from '../render/index.ts';
import { isChoiceList } from './binding/choice-lists.ts';
import type { BindOptions } from './binding/content.ts';
import { formDiagnostic } from './diagnostics.ts';
import { areTexts, isText } from './messages/by-locale.ts';
import { messageCodes } from './messages/wording.ts';
import { deepestName, parsePath, shapeAt } from './schema/paths.ts';
import { type Group, kinds } from './schema/shape.ts';
import type { FormOptions } from './settings.ts';
import type { StepSettings } from './steps.ts';

const message = either(anyText, anyFunction);
const wordings = Object.fromEntries(messageCodes.map((code) => [code, message]));
const isCode = (name: string) => Object.hasOwn(wordings, name);

/** Words by code, or by locale and code. */
const messages: OptionKind = {
  words: 'an object of messages by code, or by locale and code',
  holds: (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
};

const search: OptionKind = {
  words: 'an object with the functions find and byValue',
  holds: (value) =>
    typeof value === 'object' &&
    value !== null &&
    ['find', 'byValue'].every((name) => typeof (value as Record<string, unknown>)[name] === 'function'),
};

const formOptionTable: OptionTable<FormOptions> = {
  labels: recordOf(either(anyText, recordOf(anyText))),
  hints: recordOf(either(anyText, recordOf(anyText))),
  choiceLabels: recordOf(recordOf(either(anyText, recordOf(anyText)))),
  choices: recordOf(anyFunction),
  searches: recordOf(search),
  kinds: recordOf(oneOf(...kinds)),
  shape: recordOf(anything),
  messages,
  unknown: oneOf('ignore', 'reject', 'collect'),
  empty: recordOf(oneOf('keep')),
  trim: either(trueOrFalse, recordOf(trueOrFalse)),
  once: trueOrFalse,
  buttons: listOf(someText),
  limits: groupOf({
    body: numberFrom(0),
    files: wholeNumberFrom(0),
    file: numberFrom(0),
    allFiles: numberFrom(0),
    fields: wholeNumberFrom(0),
    name: wholeNumberFrom(1),
    depth: wholeNumberFrom(1),
    list: wholeNumberFrom(0),
    pause: numberFrom(0),
    duration: numberFrom(0),
  }),
};

/** @throws {LoomError} for options that are none */
export function assertFormOptions(given: unknown): void {
  assertOptions<FormOptions>('defineForm', given, formOptionTable);
  const { messages: own = {} } = given ?? {};
  for (const [name, texts] of Object.entries(own)) {
    if (isCode(name)) assertOptions('messages', { [name]: texts }, wordings);
    else if (typeof texts === 'object' && isLocale(name)) assertOptions(`messages.${name}`, texts, wordings);
    else assertOptions('messages', { [name]: texts }, wordings);
  }
}

/**
 * Options that name fields name those that there are.
 * @throws {LoomError} for a name that is none
 */
export function assertFieldNames(form: string, shape: Group, options: FormOptions): void {
  const { labels, hints, choiceLabels, choices: asked, searches, kinds: given, empty, trim } = options;
  for (const [name, texts] of [...Object.entries(labels ?? {}), ...Object.entries(hints ?? {})])
    assertByLocale(form, shape, name, isText(texts) ? undefined : texts);
  for (const [name, texts] of Object.entries(choiceLabels ?? {}))
    assertByLocale(form, shape, name, areTexts(texts) ? undefined : texts);
  for (const record of [asked, searches, given, empty, typeof trim === 'object' ? trim : undefined])
    for (const name of Object.keys(record ?? {})) assertField(form, shape, name);
}

/** @param texts by the names of fields, where the name is that of a locale */
function assertByLocale(form: string, shape: Group, name: string, texts: object | undefined): void {
  if (!texts || !isLocale(name)) assertField(form, shape, name);
  else for (const field of Object.keys(texts)) assertField(form, shape, field);
}

const stepsKind: OptionKind = {
  words: 'a list of steps, each with a name and fields: { name: "dates", fields: ["from", "until"] }',
  holds: (value) =>
    Array.isArray(value) &&
    value.length > 0 &&
    value.every(
      (step: unknown) =>
        step !== null && typeof step === 'object' && stepKind.holds(step) && 'name' in step && 'fields' in step,
    ),
};

const stepKind = groupOf({ name: someText, fields: listOf(someText), label: anyText });

/** @throws {LoomError} for steps that are none, and for fields that the form does not have or that are in two of them */
export function assertSteps(form: string, shape: Group, steps: unknown): asserts steps is readonly StepSettings[] {
  assertArgument('steps', 'list of steps', steps, stepsKind);
  const seen = new Set<string>();
  for (const { fields } of steps as readonly StepSettings[])
    for (const field of fields) {
      if (!shape.fields.has(field)) assertField(form, shape, field);
      if (!shape.fields.has(field) || seen.has(field))
        throw new LoomError(formDiagnostic('invalid-step', { form, field }));
      seen.add(field);
    }
}

const choices: OptionKind = {
  words: 'a list of values, or of objects with value and label',
  holds: isChoiceList,
};

const presentFile = groupOf({ name: someText, url: anyText });

const files: OptionKind = {
  words: 'an object with name, and perhaps url, or a list of such objects',
  holds: (value) => {
    const list: unknown[] = Array.isArray(value) ? value : [value];
    return value === null || value === undefined || list.every((one) => presentFile.holds(one) && hasName(one));
  },
};

const hasName = (value: unknown) => typeof (value as { name?: unknown }).name === 'string';

const bindOptionTable: OptionTable<BindOptions> = {
  choices: recordOf(choices),
  files: recordOf(files),
  key: anyText,
  version: {
    words: 'a text, a number or a Date',
    holds: (value) => typeof value === 'string' || typeof value === 'number' || value instanceof Date,
  },
};

/** @throws {LoomError} for options of a bound form that are none */
export function assertBindOptions(form: string, shape: Group, given: BindOptions): void {
  assertOptions('a form', given, bindOptionTable);
  for (const name of Object.keys({ ...given.choices, ...given.files })) assertField(form, shape, name);
}

/** @throws {LoomError} for the name of a field that the form does not have */
export function assertField(form: string, shape: Group, given: string): void {
  const name = messageOf(given);
  const path = parsePath(name, deepestName);
  if (path && shapeAt(shape, path)) return;
  const known = [...shape.fields.keys()];
  throw new LoomError(formDiagnostic('unknown-field', { form, field: name, nearest: nearest(name, known), known }));
}

/** A definition, or a form that one has made. */
const readable: OptionKind = {
  words: 'what defineForm makes, or a form from it: boatForm, boatForm.from(boat)',
  holds: (value) =>
    typeof value === 'object' &&
    value !== null &&
    (isDefinition(value) || ('definition' in value && isDefinition(value.definition))),
};

export const someForms: OptionKind = {
  words: 'a list of forms: [detailsForm, passwordForm]',
  holds: (value) => Array.isArray(value) && value.length > 0 && value.every((one) => readable.holds(one)),
};

/** @throws {LoomError} for anything that is no form */
export function assertReadable(call: string, value: unknown): void {
  assertArgument(call, 'form', value, readable);
}

function isDefinition(value: unknown): boolean {
  return typeof value === 'object' && value !== null && 'settings' in value && 'shape' in value && 'blank' in value;
}
