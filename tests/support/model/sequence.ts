/** One random visit: what a visitor does, and what must be true afterwards. */

import type { Random } from '../../../examples/harbour/data/random.ts';
import type { Tab } from '../engines/index.ts';
import type { Site } from './site.ts';

/** What the visitor has typed and nobody has been sent, by the field’s id. */
type Typed = Record<string, string>;

export interface Visit {
  tab: Tab;
  site: Site;
  random: Random;
  typed: Typed;
  /** The field that the visitor types in, as long as nothing else is done. */
  focused: string | undefined;
  log: string[];
}

type Act = (visit: Visit) => Promise<void>;

const press =
  (selector: string): Act =>
  async ({ tab }) => {
    await tab.run((where: string) => document.querySelector<HTMLElement>(where)?.click(), selector);
  };

/** Types at the end of a field, letter by letter, as a keyboard does. */
const typeIn =
  (id: string): Act =>
  async (visit) => {
    const text = String.fromCharCode(97 + visit.random.between(0, 25)).repeat(1 + visit.random.between(0, 2));
    const value = await visit.tab.run(
      (where: string, letters: string) => {
        const field = document.getElementById(where) as HTMLInputElement | null;
        field?.focus();
        for (const letter of field ? letters : '') {
          field!.value += letter;
          field!.dispatchEvent(new InputEvent('input', { bubbles: true, data: letter, inputType: 'insertText' }));
        }
        return field?.value;
      },
      id,
      text,
    );
    if (value === null || value === undefined) return;
    visit.typed[id] = value;
    visit.focused = id;
  };

const actions: Record<string, Act> = {
  next: press('a.next'),
  previous: press('a.previous'),
  sort: press('a.sort'),
  fragment: press('a.fragment'),
  top: press('a.top'),
  open: press('details summary'),
  write: typeIn('draft-text'),
  search: typeIn('query'),
  save: typeIn('draft'),
  note: typeIn('note'),
  send: press('.send'),
  choose: async ({ tab, random, typed }) => {
    typed['choice'] = await tab.run(
      (index: number) => {
        const choice = document.querySelector<HTMLSelectElement>('#choice')!;
        choice.selectedIndex = index;
        choice.dispatchEvent(new Event('input', { bubbles: true }));
        return choice.value;
      },
      random.between(0, 2),
    );
  },
  remove: async ({ tab, random }) => {
    await tab.run(
      (at: number) => {
        const buttons = document.querySelectorAll<HTMLButtonElement>('li button');
        const button = buttons[at % buttons.length];
        button?.focus();
        button?.click();
      },
      random.between(0, 7),
    );
  },
  back: async ({ tab }) => {
    // Before the first page is another site.
    const isFirst = await tab.run(() => (history.state as { isFirst?: boolean } | null)?.isFirst);
    if (!isFirst) await tab.back();
  },
  forward: ({ tab }) => tab.forward(),
  wait: ({ random }) => new Promise((resolve) => setTimeout(resolve, random.between(0, 249))),
  cut: async ({ site }) => site.cutNext(),
  restart: ({ site, random }) => site.restart(random.between(0, 119)),
};

/** Does something; tells what was wrong then. */
export async function act(visit: Visit): Promise<string | undefined> {
  const name = visit.random.pick(Object.keys(actions));
  visit.log.push(name);
  const { focused } = visit;
  const isPassive = ['wait', 'cut', 'restart'].includes(name);
  if (!isPassive) visit.focused = undefined;
  await actions[name]!(visit);
  await new Promise((resolve) => setTimeout(resolve, visit.random.between(0, 79)));
  const watched = visit.focused ?? (isPassive ? focused : undefined);
  visit.focused = watched;
  const active = await visit.tab.run(() => document.activeElement?.id ?? '');
  return watched && active !== watched ? `the focus went from ${watched} to “${active}”` : undefined;
}

/** What differs between the page and a fresh load of its URL, or nothing. */
export function difference(tab: Tab): Promise<string | undefined> {
  return tab.run(async () => {
    const answer = await fetch(location.href, { headers: { accept: 'text/html' } }).catch(() => undefined);
    if (!answer) return 'no answer';
    const fresh = new DOMParser().parseFromString(await answer.text(), 'text/html');
    const shown = document.cloneNode(true) as Document;
    const plain = (page: Document) => {
      for (const one of page.querySelectorAll('#loom-announcer, template, script, .loom-failure, [name=loom-token]'))
        one.remove();
      for (const one of page.querySelectorAll('*'))
        for (const name of ['data-loom-mark', 'open', 'tabindex', 'style']) one.removeAttribute(name);
      // A form that was refused is shown until it is sent again; a fresh page does not know of it.
      if (document.querySelector('#note[aria-invalid]')) page.querySelector('#note-form')?.remove();
      // It is loaded once, and shows what was so then.
      page.querySelector('[data-loom-region=aside]')?.replaceChildren();
      page.body.normalize();
      return [page.documentElement.className, page.body.className, page.title, page.body.innerHTML.trim()].join('\n');
    };
    const [ours, theirs] = [plain(shown), plain(fresh)];
    if (ours === theirs) return undefined;
    const at = [...ours].findIndex((letter, index) => letter !== theirs[index]);
    return `${location.href}\npage:  …${ours.slice(Math.max(0, at - 200), at + 200)}\nfresh: …${theirs.slice(Math.max(0, at - 200), at + 200)}`;
  });
}

/** What of the visitor’s text is not there any more, or nothing. */
export async function loss({ tab, typed, site }: Visit): Promise<string | undefined> {
  const shown = await tab.run(() => {
    const fields = document.querySelectorAll<HTMLInputElement>('#choice, #draft-text, #query, #draft, #note');
    return Object.fromEntries([...fields].map((field) => [field.id, field.value]));
  });
  for (const [id, text] of Object.entries(typed)) {
    if (shown[id] === text) continue;
    // A note that the server took is gone from its field, and in the list.
    if (id === 'note' && site.state.sent.some((one) => text.startsWith(one))) continue;
    return `${id} was “${text}” and is “${shown[id]}”; the server has “${site.state.draft}” as draft and ${site.state.saved} changes`;
  }
  // What could not be saved is not sent again by itself; the visitor is told.
  const isTold = await tab.run(() => document.querySelector('.loom-failure') !== null);
  if (typed['draft'] !== undefined && site.state.draft !== typed['draft'] && !isTold)
    return `“${typed['draft']}” was typed, and the server has “${site.state.draft}”`;
  return undefined;
}

/** Whether nothing is on its way any more. */
export async function isQuiet({ tab }: Visit): Promise<string | undefined> {
  const busy = await tab.run(() => document.querySelectorAll('[aria-busy], [aria-disabled]').length);
  return busy > 0 ? `${busy} elements are still busy` : undefined;
}
