/** The controls of a form, and what of them is sent (HTML §4.10.21.4 “constructing the entry list”). */
import {
  ancestors,
  attribute,
  type Document,
  type Element,
  hasAttribute,
  rawText,
  select,
  shownText,
} from './document.ts';

/** What a form sends: names with texts or files. */
export type Entry = [name: string, value: string | File];

const controls = 'input, select, textarea, button';

/** The controls that belong to a form, wherever they are (HTML §4.10.18.3 “form owner”). */
export function controlsOf(form: Element, document: Document): Element[] {
  const id = attribute(form, 'id');
  return select(controls, document).filter((control) => {
    const owner = attribute(control, 'form');
    if (owner !== undefined) return owner === id;
    for (const one of ancestors(control)) if (one.name === 'form') return one === form;
    return false;
  });
}

/** Whether a control is disabled, by itself or by a fieldset around it (HTML §4.10.18.5). */
export function isDisabled(control: Element): boolean {
  if (hasAttribute(control, 'disabled')) return true;
  let inside: Element = control;
  for (const one of ancestors(control)) {
    if (one.name === 'fieldset' && hasAttribute(one, 'disabled') && inside !== firstLegend(one)) return true;
    inside = one;
  }
  return false;
}

function firstLegend(fieldset: Element): Element | undefined {
  return fieldset.children.find((child): child is Element => 'name' in child && child.name === 'legend');
}

export function typeOf(control: Element): string {
  if (control.name !== 'input' && control.name !== 'button') return control.name;
  return (attribute(control, 'type') ?? (control.name === 'input' ? 'text' : 'submit')).toLowerCase();
}

export function isSubmitter(control: Element): boolean {
  const type = typeOf(control);
  return type === 'submit' || (type === 'image' && control.name === 'input');
}

/** The texts of an element’s options that are chosen. */
function chosenOptions(field: Element): string[] {
  const options = optionsOf(field);
  const chosen = options.filter((option) => hasAttribute(option, 'selected'));
  if (hasAttribute(field, 'multiple')) return chosen.map(optionValue);
  // Of a drop-down list one is always chosen (HTML §4.10.7 “selectedness setting algorithm”).
  const one = chosen.at(-1) ?? options.find((option) => !hasAttribute(option, 'disabled'));
  return one ? [optionValue(one)] : [];
}

export function optionsOf(field: Element): Element[] {
  return select('option', field);
}

export function optionValue(option: Element): string {
  return attribute(option, 'value') ?? shownText(option);
}

/** What a control holds as the page shows it; nothing for one that sends nothing. */
export function valuesOf(control: Element): string[] {
  switch (typeOf(control)) {
    case 'checkbox':
    case 'radio':
      return hasAttribute(control, 'checked') ? [attribute(control, 'value') ?? 'on'] : [];
    case 'select':
      return chosenOptions(control);
    case 'textarea':
      return [rawText(control)];
    case 'file':
    case 'submit':
    case 'image':
    case 'reset':
    case 'button':
      return [];
    default:
      return [attribute(control, 'value') ?? ''];
  }
}

/**
 * What a form sends.
 * @param given what was filled in, by control
 */
export function entryList(
  form: Element,
  document: Document,
  submitter: Element | undefined,
  given: ReadonlyMap<Element, readonly (string | File)[]>,
): Entry[] {
  const entries: Entry[] = [];
  for (const control of controlsOf(form, document)) {
    const isPressed = control === submitter;
    if (isDisabled(control) || (isSubmitter(control) && !isPressed) || isInList(control)) continue;
    const name = attribute(control, 'name') ?? '';
    if (isPressed && typeOf(control) === 'image') {
      for (const axis of ['x', 'y']) entries.push([name === '' ? axis : `${name}.${axis}`, '1']);
      continue;
    }
    if (name === '') continue;
    if (isPressed) entries.push([name, attribute(control, 'value') ?? '']);
    const values = given.get(control) ?? valuesOf(control);
    for (const value of values) entries.push([name, value]);
    // A field without a file says so.
    if (typeOf(control) === 'file' && values.length === 0)
      entries.push([name, new File([], '', { type: 'application/octet-stream' })]);
  }
  return entries.map(([name, value]) => [name, typeof value === 'string' ? withCRLF(value) : value]);
}

function isInList(control: Element): boolean {
  for (const one of ancestors(control)) if (one.name === 'datalist') return true;
  return false;
}

/** HTML §4.10.21.8: line ends as forms send them. */
function withCRLF(text: string): string {
  return text.replace(/\r\n?|\n/g, '\r\n');
}
