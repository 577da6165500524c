/** What forms and controls do besides their own: sent while one types, asked for again, one box for all rows, suggestions. */
import { allField, debounceAttribute, searchAttribute, submitOnAttribute } from '../protocol/index.ts';
import type { SubmitManner } from './actions.ts';
import { isControl } from './controls.ts';
import { isServers } from './page.ts';

interface Around {
  /** Sends a form, or asks for the page again with what it holds now. */
  submit(form: HTMLFormElement, edit?: SubmitManner['edit']): void;
  /** Asks for a region. */
  reload(region: string, url: string): void;
}

/** Begins to listen. The result is to be told of forms that were sent. */
export function watchForms({ submit, reload }: Around): { noteSent(form: HTMLFormElement): void } {
  /** Forms and searches that wait for the visitor to stop typing. */
  const pauses = new WeakMap<Element, ReturnType<typeof setTimeout>>();
  const noteSent = (owner: Element) => clearTimeout(pauses.get(owner));
  const afterPause = (owner: Element, work: () => void) => {
    noteSent(owner);
    pauses.set(owner, setTimeout(work, Number(owner.getAttribute(debounceAttribute) ?? 300)));
  };
  const submitValid = (form: HTMLFormElement) => {
    // What cannot be sent yet waits for the next letter.
    if (form.isConnected && form.checkValidity()) submit(form);
  };
  const onInput = (event: Event) => {
    // What is still being composed is no text yet.
    if ((event as InputEvent).isComposing) return;
    const target = event.target as HTMLInputElement;
    const form = target.form ?? target.closest?.('form');
    if (form?.matches(`[${submitOnAttribute}=input]`) && isServers(form)) afterPause(form, () => submitValid(form));
    const { list } = target;
    const from = list && target.getAttribute(searchAttribute);
    if (from && isServers(target))
      afterPause(target, () => {
        const { value } = target;
        const url = new URL(from, document.baseURI);
        url.searchParams.set('text', value);
        // Who has chosen a suggestion needs no other.
        const isChosen = [...(list as HTMLDataListElement).options].some((option) => option.value === value);
        if (!isChosen && url.origin === location.origin) reload(list.id, url.href);
      });
  };
  for (const type of ['input', 'compositionend']) document.addEventListener(type, onInput);
  const changes = `[${submitOnAttribute}=change]`;
  document.addEventListener('change', ({ target }) => {
    const { form } = target as HTMLInputElement;
    if (!isControl(target as Node) || !form) return;
    tick(form, target as HTMLInputElement);
    const asks = (one: Element) => one.matches(changes) && isServers(one);
    if (asks(target as Element)) submit(form, 'refresh');
    else if (asks(form)) submitValid(form);
  });
  return { noteSent };
}

/** The box for all rows ticks theirs, and shows what they are. */
function tick(form: HTMLFormElement, changed: HTMLInputElement): void {
  const boxes = ([...form.elements] as HTMLInputElement[]).filter(({ type }) => type === 'checkbox');
  const rowsOf = (all: HTMLInputElement) => boxes.filter(({ name }) => name.replace(/\[\d+\]/g, '[]') === all.value);
  if (changed.name === allField) {
    // Rows that change tell this box, too.
    const { checked } = changed;
    for (const box of rowsOf(changed)) {
      if (box.checked === checked || box.disabled) continue;
      box.checked = checked;
      box.dispatchEvent(new Event('change', { bubbles: true }));
    }
    return;
  }
  for (const all of boxes.filter(({ name }) => name === allField)) {
    const rows = rowsOf(all);
    if (!rows.includes(changed)) continue;
    all.checked = rows.every(({ checked }) => checked);
    all.indeterminate = !all.checked && rows.some(({ checked }) => checked);
  }
}
