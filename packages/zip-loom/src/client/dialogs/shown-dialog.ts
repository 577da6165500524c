/** One page in a dialog: its element, what the server said of it, what was typed in it. */
import { dialogAttribute } from '../../protocol/index.ts';
import type { PageState } from '../page.ts';
import type { Shown } from '../requests.ts';
import type { ApplyOptions, Tools } from '../tools.ts';
import { partOf, renameIds } from './part-of-page.ts';

let opened = 0;

export class ShownDialog {
  readonly element = document.createElement('dialog');
  /** The URL of what it shows. */
  url = '';
  readonly opener: HTMLElement | undefined;
  /** `dialog`, or `dialog` and the name of a region. */
  readonly what: string;
  private readonly tools: Tools;
  private readonly content = document.createElement('div');
  /** What the server said of it; the list and the digests of a page are not used here. */
  private readonly state: PageState;
  private readonly renamed = new Set<string>();
  private readonly since: number;
  private wasRefused = false;

  /** @param onClose called when the visitor wants it to close; tells whether it does */
  constructor(tools: Tools, what: string, opener: HTMLElement | undefined, onClose: () => boolean) {
    this.tools = tools;
    this.what = what;
    this.opener = opener;
    this.since = tools.now();
    const { element, content } = this;
    element.id = `loom-dialog-${++opened}`;
    element.className = 'loom-dialog';
    element.setAttribute(dialogAttribute, '');
    const close = document.createElement('button');
    close.type = 'button';
    close.className = 'loom-close';
    close.textContent = tools.textOf('close');
    close.addEventListener('click', onClose);
    // What is at hand first is the page’s own.
    element.append(content, close);
    const [name, digests, folded, sources, changes, wanted] = [
      '',
      new Map(),
      new Set<string>(),
      new Map(),
      [],
      new Set<string>(),
    ];
    this.state = {
      name,
      mark: '',
      token: '',
      digests,
      folded,
      sources,
      changes,
      wanted,
      channels: '',
      position: '',
      base: tools.baseOf(content),
      hasBase: true,
    };
    // A browser that is asked to keep it open need not do so, and would ask twice.
    element.addEventListener('keydown', (event) => {
      if (event.key !== 'Escape' || event.defaultPrevented || event.isComposing) return;
      event.preventDefault();
      onClose();
    });
    element.addEventListener('cancel', (event) => {
      if (event.target !== element) return;
      event.preventDefault();
      onClose();
    });
    // A form with the method “dialog” closes it by itself.
    element.addEventListener('close', () => {
      if (element.isConnected && !element.open && !onClose()) element.showModal();
    });
    element.addEventListener('click', (event) => {
      const link = (event.target as Element).closest?.('a[href^="#"]');
      if (!link) return;
      // The page beneath stays where it is.
      event.preventDefault();
      element.querySelector(`[id="${CSS.escape(link.getAttribute('href')!.slice(1))}"]`)?.scrollIntoView();
    });
  }

  /** Regions that are in it. */
  get regions(): Map<string, HTMLElement> {
    return this.tools.liveRegions(this.state);
  }

  /** Whether something was typed that nobody has taken yet. */
  get isUnsaved(): boolean {
    const typed = [...this.content.querySelectorAll('input, select, textarea, [contenteditable]')].filter((one) =>
      this.tools.typedSince(one, this.since),
    );
    // What is searched for is not lost.
    return this.wasRefused || typed.some((one) => (one as HTMLInputElement).form?.method !== 'get');
  }

  /**
   * Shows a page in it. Its styles are added to those of the page beneath.
   * @returns elements that are new; nothing where somebody minded
   */
  show({ text, url, status }: Shown, options: ApplyOptions): Element[] | undefined {
    const { tools, state, element } = this;
    const page = tools.parseDocument(text);
    const { mark } = tools.takeList(page);
    tools.adopt(page, tools.isMarked(mark), mark);
    const [, name = ''] = this.what.split(/\s+/);
    const region =
      name === '' ? undefined : (tools.regionsOf(page, mark).get(name) ?? page.getElementById(name) ?? undefined);
    const { title } = page;
    tools.addToHead([...page.querySelectorAll('head > link[rel~=stylesheet], head > style, head > script[src]')]);
    const part = partOf(tools, page, region, url);
    renameIds(part, element, this.renamed);
    if (!tools.send(element, 'loommerge', { region: element.id, content: part })) return undefined;
    state.mark = mark;
    this.url = url;
    if (options.refusedForm) this.wasRefused = status >= 400;
    const { fresh } = tools.merging(state, options, (merge) => tools.mergeChildren(state.base, part, merge));
    this.nameAfter(title);
    tools.send(element, 'loommerged', { region: element.id });
    return fresh;
  }

  /** Screen readers say what it is about: its heading, else the title of its page. */
  private nameAfter(title: string): void {
    const { element, content } = this;
    const heading = content.querySelector('h1, h2, h3');
    if (heading && heading.id === '') heading.id = `${element.id}-heading`;
    if (heading) element.setAttribute('aria-labelledby', heading.id);
    else element.removeAttribute('aria-labelledby');
    element.setAttribute('aria-label', title);
  }

  /** Puts it over the page. */
  appear(): void {
    document.body.append(this.element);
    this.element.showModal();
  }

  /** Takes it from the page; it can appear again as it was. */
  vanish(): void {
    this.element.close();
    this.element.remove();
  }
}
