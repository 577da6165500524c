/** What controls show when the server’s markup changes, when their form was sent, and when their page is shown again. */
import type { Base } from './base.ts';
import { typedSince } from './typing.ts';

export type Control = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

export function isControl(node: Node): node is Control {
  return node instanceof HTMLInputElement || node instanceof HTMLTextAreaElement || node instanceof HTMLSelectElement;
}

interface Moment {
  /** When the request was sent: what was typed later stays whatever the server says. */
  since: number;
  /** Nobody asked for it: the control at hand stays as it is. */
  isBackground?: boolean | undefined;
  /** A form that was refused: what its fields show is still the visitor’s, although the server says it too. */
  refusedForm?: HTMLFormElement | undefined;
}

/**
 * Looks at a control before its markup is merged; the result is called afterwards. It shows the server’s value where the server
 * changed just that, unless the visitor typed since.
 */
export function watchControl(base: Base<Control>, { since, isBackground, refusedForm }: Moment): () => void {
  const live = base.live!;
  const given = defaultOf(base);
  const shown = shownOf(live);
  const isAtHand = isBackground && live === document.activeElement;
  const stays = typedSince(live, since) || isAtHand;
  // What was set follows its markup no more, so that no other of its group gives way meanwhile.
  if (stays && isBox(live)) live.checked = shown === true;
  return () => {
    if (defaultOf(base) !== given && !stays) reset(live);
    else show(live, shown);
    // What the server has changed under the visitor’s hands is shown when they leave it untouched.
    if (isAtHand && defaultOf(base) !== given)
      live.addEventListener('blur', () => typedSince(live, 0) || reset(live), { once: true });
    // Else the next page, which knows nothing of it, would take it away.
    if (refusedForm && live.form === refusedForm && String(shownOf(live)) === String(shown))
      for (const one of [base, live]) setDefault(one, given);
  };
}

/** As a form that was sent is afterwards, but for what was typed since. */
export function resetForm(form: HTMLFormElement, since: number): void {
  for (const control of form.elements) if (isControl(control) && !typedSince(control, since)) reset(control);
}

/** What the server’s markup says, as text that can be compared. */
function defaultOf(control: Control): string {
  if (control instanceof HTMLSelectElement)
    return [...control.options].map((option) => (option.defaultSelected ? option.value : '')).join('\n');
  return isBox(control) ? String(control.defaultChecked) : control.defaultValue;
}

/** Makes the markup say what it said before. */
function setDefault(control: Control, given: string): void {
  if (control instanceof HTMLSelectElement) {
    const values = given.split('\n');
    for (const option of control.options) option.defaultSelected = values.includes(option.value);
  } else if (isBox(control)) control.defaultChecked = given === 'true';
  else if (control.defaultValue !== given) control.defaultValue = given;
}

function reset(control: Control): void {
  if (control instanceof HTMLSelectElement) {
    for (const option of control.options) option.selected = option.defaultSelected;
    if (control.selectedIndex < 0 && control.type === 'select-one') control.selectedIndex = 0;
  } else if (control.type === 'file') control.value = '';
  else show(control, isBox(control) ? control.defaultChecked : control.defaultValue);
}

/** What a control shows: text, a choice, or the values that are selected. */
export type Shown = string | boolean | string[];

export function shownOf(control: Control): Shown {
  if (control instanceof HTMLSelectElement) return [...control.selectedOptions].map(({ value }) => value);
  return isBox(control) ? control.checked : control.value;
}

/** Makes it show that again. What is the same is not set, for a field that was set follows its markup no more. */
export function show(control: Control, shown: Shown): void {
  if (control instanceof HTMLSelectElement) {
    const options = [...control.options];
    const values = shown as string[];
    // A choice that is not offered any more is none.
    if (!options.some(({ value }) => values.includes(value)) && values.length > 0) return;
    for (const option of options) {
      const selected = values.includes(option.value);
      if (option.selected !== selected) option.selected = selected;
    }
  } else if (isBox(control)) {
    if (control.checked !== shown) control.checked = shown as boolean;
  } else if (control.type !== 'file' && control.value !== shown) control.value = shown as string;
}

function isBox(control: Control): control is HTMLInputElement {
  return control.type === 'checkbox' || control.type === 'radio';
}
