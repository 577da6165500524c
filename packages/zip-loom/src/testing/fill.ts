/** Fills a form in as its visitor would: only what can be filled in, chosen or pressed there. */
import { didYouMean, nearest } from '../diagnostics/index.ts';
import { formField } from '../protocol/index.ts';
import { controlsOf, isDisabled, isSubmitter, optionsOf, optionValue, typeOf } from './controls.ts';
import { attribute, type Document, type Element, hasAttribute, select, shownText } from './document.ts';

/** What is typed, chosen or ticked in a field; lists for boxes, lists and files of one name. */
export type FormValue = string | number | boolean | Date | File | readonly (string | number | File)[];

/** By the names of fields. */
export type FormValues = Readonly<Record<string, FormValue>>;

/** Which form of a page is sent, and by which button. */
export interface SubmitOptions {
  /** The form: its name in code, its id, or a CSS selector. Default: the first that has the fields and the button. */
  form?: string;
  /** The button that is pressed: its text, its name or its value. Default: the first one, as Enter does. */
  button?: string;
}

/** A form that is ready to be sent. */
export interface Filled {
  form: Element;
  submitter: Element | undefined;
  given: ReadonlyMap<Element, readonly (string | File)[]>;
}

/** @throws {Error} for a form, a field, a choice or a button that the page does not have, with those that it has */
export function fill(document: Document, values: FormValues, { form: wanted, button }: SubmitOptions): Filled {
  const form = formFor(document, Object.keys(values), wanted, button);
  const controls = controlsOf(form, document);
  const given = new Map<Element, readonly (string | File)[]>();
  for (const [name, value] of Object.entries(values)) fillField(fieldsOf(controls, name), name, value, given);
  return { form, submitter: buttonOf(controls, button), given };
}

function formFor(
  document: Document,
  names: readonly string[],
  wanted: string | undefined,
  button: string | undefined,
): Element {
  const forms = select('form', document);
  const isMeant = (form: Element) =>
    names.every((name) => namesOf(form, document).includes(name)) &&
    (button === undefined || buttonNamed(buttonsOf(controlsOf(form, document)), button) !== undefined);
  const found =
    wanted === undefined
      ? (forms.find(isMeant) ?? (forms.length === 1 ? forms[0] : undefined))
      : (forms.find((form) => codeName(form, document) === wanted || attribute(form, 'id') === wanted) ??
        forms.find((form) => isSelected(form, wanted, document)));
  if (found) return found;
  if (forms.length === 0) throw new Error('There is no form on this page.');
  const list = forms.map((form) => {
    const texts = shownButtons(buttonsOf(controlsOf(form, document))).map((text) => `“${text}”`);
    return `${describeForm(form, document)} with ${[...namesOf(form, document), ...texts].join(', ')}`;
  });
  const sought = [
    ...(names.length > 0 ? [`the fields ${names.join(', ')}`] : []),
    ...(button === undefined ? [] : [`the button “${button}”`]),
  ];
  const what =
    wanted === undefined ? `No form of the page has ${sought.join(' and ')}` : `There is no form “${wanted}”`;
  throw new Error(`${what}. The page has: ${list.join('; ')}.`);
}

function isSelected(form: Element, selector: string, document: Document): boolean {
  try {
    return select(selector, document).includes(form);
  } catch {
    return false;
  }
}

function describeForm(form: Element, document: Document): string {
  const name = codeName(form, document) ?? attribute(form, 'id');
  return name === undefined ? `a form for ${attribute(form, 'action') ?? 'this URL'}` : `“${name}”`;
}

/** The name of the definition, as its hidden field says it. */
function codeName(form: Element, document: Document): string | undefined {
  const list = controlsOf(form, document).find((control) => attribute(control, 'name') === formField);
  return list && attribute(list, 'value')?.split(':')[0];
}

/** What a visitor can fill in. */
function namesOf(form: Element, document: Document): string[] {
  const names = controlsOf(form, document)
    .filter((control) => typeOf(control) !== 'hidden' && !isSubmitter(control))
    .map((control) => attribute(control, 'name') ?? '');
  return [...new Set(names)].filter((name) => name !== '');
}

function fieldsOf(controls: readonly Element[], name: string): Element[] {
  const named = controls.filter((control) => attribute(control, 'name') === name);
  const fields = named.filter((control) => typeOf(control) !== 'hidden');
  if (fields.length > 0) return fields;
  if (named.length > 0) throw new Error(`Nobody can fill in “${name}”: it is hidden.`);
  const known = [...new Set(controls.map((control) => attribute(control, 'name') ?? ''))].filter(
    (one) => one !== '' && !one.startsWith('loom-'),
  );
  throw new Error(
    `The form has no field “${name}”. ${didYouMean(nearest(name, known)) ?? ''} It has: ${known.join(', ')}.`.replace(
      '  ',
      ' ',
    ),
  );
}

function fillField(
  fields: readonly Element[],
  name: string,
  value: FormValue,
  given: Map<Element, readonly (string | File)[]>,
): void {
  const [first] = fields;
  if (!first) return;
  const free = fields.filter((field) => !isDisabled(field) && !hasAttribute(field, 'readonly'));
  if (free.length === 0) throw new Error(`Nobody can fill in “${name}”: it is disabled or read-only.`);
  const list = Array.isArray(value) ? (value as readonly (string | number | File)[]) : [value as string];
  switch (typeOf(first)) {
    case 'checkbox':
    case 'radio':
      tick(free, name, value, given);
      return;
    case 'select':
      given.set(first, choose(first, name, list.map(String)));
      return;
    case 'file':
      given.set(first, filesOf(first, name, list));
      return;
    default:
      free.forEach((field, index) => {
        const one = list[index];
        if (one !== undefined) given.set(field, [textFor(field, name, one)]);
      });
      if (list.length > free.length)
        throw new Error(
          `“${name}” takes ${free.length} value${free.length === 1 ? '' : 's'}, and ${list.length} were given.`,
        );
  }
}

function textFor(field: Element, name: string, value: unknown): string {
  if (value instanceof File) throw new Error(`“${name}” takes text, not a file: it is no <input type="file">.`);
  if (!(value instanceof Date)) return String(value);
  const iso = value.toISOString();
  const type = typeOf(field);
  return type === 'date' ? iso.slice(0, 10) : type === 'time' ? iso.slice(11, 16) : iso.slice(0, 16);
}

function tick(
  fields: readonly Element[],
  name: string,
  value: FormValue,
  given: Map<Element, readonly (string | File)[]>,
): void {
  const boxValue = (field: Element) => attribute(field, 'value') ?? 'on';
  const [only] = fields;
  if (typeof value === 'boolean') {
    if (fields.length > 1 || !only)
      throw new Error(`“${name}” is a group: give the values that are chosen, not ${value}.`);
    given.set(only, value ? [boxValue(only)] : []);
    return;
  }
  const wanted = (Array.isArray(value) ? (value as readonly unknown[]) : [value]).map(String);
  assertKnown(name, wanted, fields.map(boxValue));
  for (const field of fields) given.set(field, wanted.includes(boxValue(field)) ? [boxValue(field)] : []);
}

/** By value or by what is read. */
function choose(field: Element, name: string, wanted: readonly string[]): string[] {
  const options = optionsOf(field).filter((option) => !hasAttribute(option, 'disabled'));
  const values = wanted.map((one) => {
    const option = options.find((each) => optionValue(each) === one) ?? options.find((each) => shownText(each) === one);
    return option ? optionValue(option) : one;
  });
  assertKnown(name, values, options.map(optionValue));
  if (values.length > 1 && !hasAttribute(field, 'multiple')) throw new Error(`Only one of “${name}” can be chosen.`);
  return values;
}

function assertKnown(name: string, wanted: readonly string[], known: readonly string[]): void {
  const missing = wanted.find((one) => !known.includes(one));
  if (missing !== undefined)
    throw new Error(`“${missing}” cannot be chosen for “${name}”. There is: ${known.join(', ')}.`);
}

function filesOf(field: Element, name: string, list: readonly unknown[]): readonly File[] {
  if (!list.every((one): one is File => one instanceof File))
    throw new Error(`“${name}” takes files: give new File([content], 'name.png', { type: 'image/png' }).`);
  if (list.length > 1 && !hasAttribute(field, 'multiple'))
    throw new Error(`Only one file can be chosen for “${name}”.`);
  return list;
}

function buttonOf(controls: readonly Element[], wanted: string | undefined): Element | undefined {
  const buttons = buttonsOf(controls);
  if (wanted === undefined) return buttons[0];
  const found = buttonNamed(buttons, wanted);
  if (found) return found;
  const texts = shownButtons(buttons);
  throw new Error(`The form has no button “${wanted}”. It has: ${texts.map((text) => `“${text}”`).join(', ')}.`);
}

function buttonsOf(controls: readonly Element[]): Element[] {
  return controls.filter((control) => isSubmitter(control) && !isDisabled(control));
}

function buttonNamed(buttons: readonly Element[], wanted: string): Element | undefined {
  return (
    buttons.find((button) => textOf(button) === wanted) ??
    buttons.find((button) => attribute(button, 'name') === wanted || attribute(button, 'value') === wanted)
  );
}

function shownButtons(buttons: readonly Element[]): string[] {
  return buttons.filter((one) => !hasAttribute(one, 'hidden')).map(textOf);
}

function textOf(button: Element): string {
  return button.name === 'input' ? (attribute(button, 'value') ?? '') : shownText(button);
}
