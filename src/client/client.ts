/** The client: links and forms inside regions, asked and answered in place. */
import { landForeignPage, landPage, landParts } from './answers.ts';
import { send } from './events.ts';
import { hideFailure, showFailure } from './failures.ts';
import { beginHistory, keepPage, restorePage, setAddress } from './history.ts';
import { type PageState, readList, regionsOf } from './page.ts';
import { Polls } from './polls.ts';
import { Queue } from './queue.ts';
import { ask, type Reply } from './requests.ts';
import { now, watchTyping } from './typing.ts';

/** A link or a form that is answered in place. */
interface Action {
  /** The region it acts in, or `page`. */
  asks: string;
  url: string;
  method: string;
  body?: BodyInit | undefined;
  form?: HTMLFormElement | undefined;
  submitter?: HTMLElement | undefined;
  /** What becomes of the address. */
  address: 'push' | 'replace' | 'stay';
}

export class Client {
  private readonly queue = new Queue();
  private readonly polls = new Polls((name, url) => this.askRegion(name, url));
  /** Forms that are on their way, so that each is sent once. */
  private readonly pending = new Set<HTMLFormElement>();
  private readonly pauses = new WeakMap<HTMLFormElement, ReturnType<typeof setTimeout>>();
  /** The address that each region came from. */
  private readonly addresses = new Map<string, string>();
  private state: PageState;

  constructor() {
    this.state = readList(document) ?? { name: '', mark: '', has: new Map() };
  }

  /** Begins to listen. */
  start(): void {
    setClientCookie();
    leaveSourceOrder();
    beginHistory();
    watchTyping(document);
    document.addEventListener('click', (event) => this.onClick(event));
    document.addEventListener('submit', (event) => this.onSubmit(event));
    document.addEventListener('input', (event) => this.onInput(event));
    addEventListener('popstate', (event) => this.onPopState(event));
    addEventListener('pageshow', (event) => {
      if (event.persisted) void this.askRegion('page', location.href);
    });
    this.polls.refresh(this.regions());
  }

  /** Asks for a region anew, in the background. */
  async update(region: string, url?: string): Promise<void> {
    await this.askRegion(region, url);
  }

  /** Applies the server’s markup that came by other means. */
  apply(html: string): void {
    landParts(this.state, html, { since: now() });
    this.polls.refresh(this.regions());
  }

  private regions(): Map<string, HTMLElement> {
    return regionsOf(document, this.state.mark);
  }

  private onClick(event: MouseEvent): void {
    const link = event.target instanceof Element ? event.target.closest<HTMLAnchorElement>('a[href]') : null;
    if (
      !link ||
      event.defaultPrevented ||
      event.button !== 0 ||
      event.metaKey ||
      event.ctrlKey ||
      event.shiftKey ||
      event.altKey
    )
      return;
    const url = new URL(link.href, location.href);
    const isOurs =
      url.origin === location.origin &&
      (link.target === '' || link.target === '_self') &&
      !link.hasAttribute('download');
    const isPlace = url.hash !== '' && url.pathname === location.pathname && url.search === location.search;
    const asks = isOurs && !isPlace ? this.asker(link) : undefined;
    if (asks === undefined) return;
    event.preventDefault();
    this.act({ asks, url: url.href, method: 'GET', address: keepsAddress(link) ? 'stay' : 'push' }, link);
  }

  private onSubmit(event: SubmitEvent): void {
    const form = event.target;
    if (!(form instanceof HTMLFormElement) || event.defaultPrevented) return;
    if (this.submit(form, event.submitter ?? undefined, 'push')) event.preventDefault();
  }

  private onInput(event: Event): void {
    const form =
      event.target instanceof Element ? event.target.closest<HTMLFormElement>('form[data-submit-on=input]') : null;
    if (!form) return;
    clearTimeout(this.pauses.get(form));
    this.pauses.set(
      form,
      setTimeout(
        () => {
          // What cannot be sent yet waits for the next letter.
          if (form.checkValidity()) this.submit(form, undefined, 'replace');
        },
        Number(form.dataset['pause'] ?? 300),
      ),
    );
  }

  /** Sends a form in place; false where the browser has to do it. */
  private submit(form: HTMLFormElement, submitter: HTMLElement | undefined, address: 'push' | 'replace'): boolean {
    const method = (submitter?.getAttribute('formmethod') ?? form.getAttribute('method') ?? 'get').toUpperCase();
    const target = submitter?.getAttribute('formtarget') ?? form.getAttribute('target') ?? '';
    const url = new URL(submitter?.getAttribute('formaction') ?? form.getAttribute('action') ?? '', location.href);
    if (method === 'DIALOG' || url.origin !== location.origin || (target !== '' && target !== '_self')) return false;
    const asks = this.asker(submitter ?? form) ?? this.asker(form);
    if (asks === undefined) return false;
    // A second press while the form is on its way changes nothing.
    if (this.pending.has(form)) return true;
    clearTimeout(this.pauses.get(form));
    const data = new FormData(form, submitter as HTMLButtonElement | undefined);
    const hasFiles = [...data.values()].some((value) => value instanceof File);
    const how = keepsAddress(submitter ?? form) ? 'stay' : address;
    if (method === 'GET') {
      url.search = new URLSearchParams(textsOf(data)).toString();
      this.act({ asks, url: url.href, method, address: how, form }, form);
    } else {
      const body = hasFiles ? data : new URLSearchParams(textsOf(data));
      this.act({ asks, url: url.href, method: 'POST', body, form, submitter, address: how }, form);
    }
    return true;
  }

  /** The region on whose behalf an element acts; nothing where it is an ordinary one. */
  private asker(element: Element): string | undefined {
    const said = element.closest('[data-updates]');
    const regions = this.regions();
    const region = [...ancestors(element)].find((one) => regions.get(one.getAttribute('data-region') ?? '') === one);
    // What is said nearer than the region counts, also further out when there is no region.
    const wish =
      said && (!region || region.contains(said) || said.contains(region)) ? said.getAttribute('data-updates') : null;
    if (wish === 'none') return undefined;
    return wish ?? region?.getAttribute('data-region') ?? undefined;
  }

  private act(action: Action, element: Element): void {
    if (!send(element, 'loom:request', { url: action.url, region: action.asks })) return;
    const { form, submitter, asks } = action;
    const isSafe = action.method === 'GET';
    const region = () => this.regions().get(asks) ?? (asks === 'page' ? document.body : undefined);
    if (form && !isSafe) this.pending.add(form);
    submitter?.setAttribute('aria-disabled', 'true');
    const since = now();
    this.queue.foreground({
      canBeReplaced: isSafe,
      run: async (signal) => {
        region()?.setAttribute('aria-busy', 'true');
        try {
          const reply = await ask(this.state, {
            asks,
            // What was loaded from an address of its own is no part of this page.
            only: region()?.hasAttribute('data-from') ?? false,
            url: action.url,
            method: action.method,
            body: action.body,
            signal,
          });
          this.land(reply, action, since, () => this.act(action, element));
        } catch (error) {
          if (!signal.aborted) throw error;
        } finally {
          if (form) this.pending.delete(form);
          submitter?.removeAttribute('aria-disabled');
          // Whoever takes its place is busy with the region now.
          if (!signal.aborted) region()?.removeAttribute('aria-busy');
        }
      },
    });
  }

  /** Shows what came back of an action. */
  private land(reply: Reply, action: Action, since: number, again: () => void): void {
    const { asks } = action;
    const region = this.regions().get(asks);
    if (reply.kind === 'navigate') {
      // The fragment of a link is not part of what was asked, and the browser wants it.
      location.assign(withFragment(reply.url, action.url));
      return;
    }
    if (reply.kind === 'failure') {
      showFailure(
        region,
        { url: action.url, name: asks, reason: reply.reason },
        action.method === 'GET' ? again : undefined,
      );
      return;
    }
    hideFailure(region);
    const options = { since, sentForm: action.method === 'GET' ? undefined : action.form };
    const address = addressOf(reply, action);
    if (address) keepPage();
    if (reply.kind === 'parts') {
      landParts(this.state, reply.text, options);
    } else if (reply.kind === 'page' || !landForeignPage(this.state, reply.text, asks, options)) {
      if (reply.isGET && reply.kind === 'foreign-page') {
        location.assign(withFragment(reply.url, action.url));
        return;
      }
      this.state = landPage(reply.text, options);
    }
    if (address) setAddress(address.url, address.how);
    this.addresses.set(asks, region?.hasAttribute('data-from') ? reply.url : location.href);
    this.polls.refresh(this.regions());
    this.setFocus(reply.status, asks);
  }

  /** After a refusal the first field in error has the focus; new content may ask for it too. */
  private setFocus(status: number, asks: string): void {
    const scope = this.regions().get(asks) ?? document.body;
    if (status === 422) scope.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
    else if (document.activeElement === document.body) scope.querySelector<HTMLElement>('[autofocus]')?.focus();
  }

  /** Asks for one region in the background. Nothing in the background ever navigates. */
  private async askRegion(name: string, url: string | undefined): Promise<'landed' | 'failed' | 'gone'> {
    let result: 'landed' | 'failed' | 'gone' = 'failed';
    const address = url ?? this.addresses.get(name) ?? location.href;
    const since = now();
    await this.queue.background(
      name,
      async () => {
        const reply = await ask(this.state, {
          asks: name,
          only: name !== 'page',
          url: new URL(address, location.href).href,
          method: 'GET',
        });
        if (reply.kind !== 'parts' && reply.kind !== 'foreign-page') {
          result = reply.kind === 'failure' ? 'failed' : 'gone';
          const element = this.regions().get(name) ?? document.body;
          const reason = reply.kind === 'failure' ? reply.reason : 'The region is not on that page any more.';
          send(element, 'loom:failure', { url: address, region: name, reason });
          return undefined;
        }
        return reply;
      },
      (reply) => {
        if (reply.kind === 'parts') landParts(this.state, reply.text, { since });
        const landed = reply.kind === 'parts' || landForeignPage(this.state, reply.text, name, { since });
        result = landed ? 'landed' : 'gone';
        if (url !== undefined && landed) this.addresses.set(name, url);
        this.polls.refresh(this.regions());
      },
    );
    return result;
  }

  private onPopState(event: PopStateEvent): void {
    this.queue.cancel();
    // The page that is being left still stands; its place in the history is known.
    keepPage();
    const snapshot = restorePage(event.state);
    if (!snapshot) {
      // Only a change of the fragment, or a page that was not kept.
      if ((event.state as { loom?: number } | null)?.loom !== undefined) location.reload();
      return;
    }
    document.title = snapshot.title;
    document.body.replaceWith(snapshot.body.cloneNode(true));
    this.state = readList(document) ?? this.state;
    this.addresses.clear();
    scrollTo(...snapshot.scroll);
    this.polls.refresh(this.regions());
    void this.askRegion('page', location.href);
  }
}

/** The answer’s address, where the page has a new one: of the last request, when it can be asked for again. */
function addressOf(
  reply: Extract<Reply, { isGET: boolean }>,
  action: Action,
): { url: string; how: 'push' | 'replace' } | undefined {
  if (!reply.isGET || action.address === 'stay') return undefined;
  const url = withFragment(reply.url, action.method === 'GET' ? action.url : '');
  if (url === location.href) return undefined;
  return { url, how: action.address };
}

function withFragment(url: string, asked: string): string {
  const { hash } = new URL(asked || url, location.href);
  return hash && !url.includes('#') ? url + hash : url;
}

function keepsAddress(element: Element): boolean {
  const said = element.closest('[data-address], [data-from]');
  return said !== null && (said.hasAttribute('data-from') || said.getAttribute('data-address') === 'stay');
}

function* ancestors(element: Element): Iterable<Element> {
  for (let one: Element | null = element; one; one = one.parentElement) yield one;
}

function textsOf(data: FormData): Array<[string, string]> {
  return [...data].map(([name, value]) => [name, typeof value === 'string' ? value : value.name]);
}

/** The page was asked for as if no scripts ran; the address need not say so any longer. */
function leaveSourceOrder(): void {
  const url = new URL(location.href);
  if (!url.searchParams.has('_order')) return;
  url.searchParams.delete('_order');
  history.replaceState(history.state, '', url);
}

/** Says to the server that a client runs, so that pages come with digests. */
function setClientCookie(): void {
  document.cookie = 'loom-client=1; path=/; samesite=lax; max-age=31536000';
}
