/** What the inspector shows: boxes around the parts of the page, and a list of them. */
import { boxOf, type Part } from './parts.ts';
import { style } from './style.ts';

export interface View {
  /** Shows other parts. */
  show(parts: readonly Part[]): void;
  close(): void;
}

interface ViewSettings {
  /** Opens the file of a part. */
  open(part: Part): void;
  /** Somebody has seen enough. */
  leave(): void;
}

/** Opens the view beside the page: in a shadow tree, with a sheet that no policy forbids, and not where a merge would find it. */
export function openView({ open, leave }: ViewSettings): View {
  const host = document.createElement('zip-loom-inspector');
  const root = host.attachShadow({ mode: 'open' });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(style);
  root.adoptedStyleSheets = [sheet];
  const boxes = root.appendChild(element('div', { class: 'boxes', 'aria-hidden': 'true' }));
  const panel = root.appendChild(element('section', { class: 'panel', 'aria-label': 'Parts of this page' }));
  document.documentElement.append(host);
  let parts: readonly Part[] = [];
  let chosen: Part | undefined;

  const place = () => {
    const shown = parts.flatMap((part) => {
      const box = boxOf(part);
      return box ? [boxElement(part, box, part === chosen)] : [];
    });
    boxes.replaceChildren(...shown);
  };
  const choose = (part: Part | undefined) => {
    if (part === chosen) return;
    chosen = part;
    place();
    for (const [at, row] of [...root.querySelectorAll('.row')].entries()) {
      const isChosen = parts[at] === part;
      row.classList.toggle('chosen', isChosen);
      if (isChosen) row.scrollIntoView({ block: 'nearest' });
    }
    root.querySelector('.details')?.replaceChildren(...(part ? detailsOf(part) : [hint()]));
  };
  /** The innermost part at a place of the window. */
  const partAt = (x: number, y: number) =>
    parts.findLast((part) => {
      const box = boxOf(part);
      return box && x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
    });
  const listening = new AbortController();
  const listen = (type: string, listener: (event: Event) => void, target: EventTarget = document) =>
    target.addEventListener(type, listener, { capture: true, signal: listening.signal });
  const isOutside = (event: Event) => !event.composedPath().includes(host);
  listen('mousemove', (event) => {
    const { clientX, clientY } = event as MouseEvent;
    if (isOutside(event)) choose(partAt(clientX, clientY));
  });
  listen('click', (event) => {
    if (!isOutside(event) || !chosen) return;
    // Nothing of the page is pressed while it is looked at.
    event.preventDefault();
    event.stopPropagation();
    open(chosen);
  });
  listen('keydown', (event) => {
    if ((event as KeyboardEvent).key === 'Escape') leave();
  });
  listen('scroll', place);
  listen('resize', place, globalThis);

  return {
    show(now) {
      const isSame = listOf(now) === listOf(parts);
      const at = chosen && parts.indexOf(chosen);
      parts = now;
      chosen = undefined;
      // A region that asks for itself changes no more than times: the list stays, with the focus in it.
      if (!isSame) {
        const rows = parts.map((part, index) => rowOf(part, () => parts[index]!, { open, choose }));
        const count = `${parts.length} ${parts.length === 1 ? 'part' : 'parts'} of this page`;
        panel.replaceChildren(
          element('header', {}, element('h2', {}, count), button('Close', leave)),
          element('ol', {}, ...rows),
          element('div', { class: 'details' }, hint()),
        );
      }
      place();
      if (isSame && at !== undefined) choose(parts[at]);
    },
    close() {
      listening.abort();
      host.remove();
    },
  };
}

function boxElement({ template, milliseconds }: Part, { left, top, width, height }: DOMRect, isChosen: boolean) {
  const box = element('div', { class: isChosen ? 'box chosen' : 'box' });
  Object.assign(box.style, { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` });
  if (isChosen) box.append(element('span', {}, `${template} · ${timeOf(milliseconds)}`));
  return box;
}

/** What the list of some parts says, but for times. */
function listOf(parts: readonly Part[]): string {
  return JSON.stringify(parts.map(({ template, depth, caller }) => [template, depth, caller]));
}

/** @param partNow the part as it is when somebody chooses it */
function rowOf(
  { template, depth, milliseconds, caller }: Part,
  partNow: () => Part,
  { open, choose }: { open(part: Part): void; choose(part: Part): void },
): HTMLElement {
  const where = caller ? `line ${caller.line} of ${caller.file.split('/').at(-1)}` : '';
  const show = button('', () => open(partNow()));
  show.append(
    element('b', {}, template),
    element('small', {}, where),
    element('small', { class: 'time' }, timeOf(milliseconds)),
  );
  show.style.paddingInlineStart = `${depth + 0.5}em`;
  for (const type of ['focus', 'mouseenter']) show.addEventListener(type, () => choose(partNow()));
  return element('li', { class: 'row' }, show);
}

function detailsOf({ template, file, line, caller, given, milliseconds }: Part): HTMLElement[] {
  const facts: Array<[string, string]> = [
    ['Template', `${file}:${line}`],
    ['Called at', caller ? `${caller.file}:${caller.line}` : 'the page itself'],
    ['Took', `${timeOf(milliseconds)}, with what is in it`],
  ];
  return [
    element('h3', {}, template),
    element('dl', {}, ...facts.flatMap(([name, value]) => [element('dt', {}, name), element('dd', {}, value)])),
    element('pre', { 'aria-label': 'What it was given' }, given === '' ? 'It was given nothing.' : given),
  ];
}

function timeOf(milliseconds: number): string {
  return `${milliseconds.toFixed(milliseconds < 1 ? 2 : 1)} ms`;
}

const hint = () =>
  element(
    'p',
    {},
    'Point at a part of the page, or go through the list. A click opens or copies its place; Escape ends this.',
  );

function element(name: string, attributes: Record<string, string>, ...children: Array<Node | string>): HTMLElement {
  const made = document.createElement(name);
  for (const [attribute, value] of Object.entries(attributes)) made.setAttribute(attribute, value);
  made.append(...children);
  return made;
}

function button(text: string, press: () => void): HTMLElement {
  const made = element('button', { type: 'button' }, text);
  made.addEventListener('click', press);
  return made;
}
