/** The client: links and forms inside regions, asked and answered in place. */
import {
  clientCookie,
  debounceAttribute,
  fromAttribute,
  orderParameter,
  pageRegion,
  submitOnAttribute,
} from '../protocol/index.ts';
import { type Action, clickAction, elementOf, submitAction } from './actions.ts';
import { applyForeignPage, applyPage, applyParts } from './answers.ts';
import { send } from './events.ts';
import { hideFailure, showFailure } from './failures.ts';
import { beginHistory, keepPage, restorePage, setURL } from './history.ts';
import { type PageState, readList, regionsOf } from './page.ts';
import { type PollResult, Polls } from './polls.ts';
import { Queue } from './queue.ts';
import { ask, type Reply } from './requests.ts';
import { now, watchTyping } from './typing.ts';

export class Client {
  private readonly queue = new Queue();
  private readonly polls = new Polls((name, url) => this.askRegion(name, url));
  /** Forms that are on their way, so that each is sent once. */
  private readonly pending = new Set<HTMLFormElement>();
  /** Forms that wait for the visitor to stop typing. */
  private readonly debounces = new WeakMap<HTMLFormElement, ReturnType<typeof setTimeout>>();
  /** The URL that each region came from. */
  private readonly sources = new Map<string, string>();
  private state: PageState;

  constructor() {
    this.state = readList(document) ?? { name: '', mark: '', digests: new Map() };
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
      if (event.persisted) void this.askRegion(pageRegion, location.href);
    });
    this.polls.refresh(this.regions());
  }

  /** Asks for a region anew, in the background. */
  async reload(region: string, url?: string): Promise<void> {
    await this.askRegion(region, url);
  }

  /** Applies the server’s markup that came by other means. */
  apply(html: string): void {
    applyParts(this.state, html, { since: now() });
    this.polls.refresh(this.regions());
  }

  private regions(): Map<string, HTMLElement> {
    return regionsOf(document, this.state.mark);
  }

  private onClick(event: MouseEvent): void {
    const clicked = clickAction(event, this.regions());
    if (!clicked) return;
    event.preventDefault();
    this.act(clicked.action, clicked.link);
  }

  private onSubmit(event: SubmitEvent): void {
    const form = event.target;
    if (!(form instanceof HTMLFormElement) || event.defaultPrevented) return;
    if (this.submit(form, event.submitter ?? undefined, 'push')) event.preventDefault();
  }

  private onInput(event: Event): void {
    const form =
      event.target instanceof Element
        ? event.target.closest<HTMLFormElement>(`form[${submitOnAttribute}=input]`)
        : null;
    if (!form) return;
    clearTimeout(this.debounces.get(form));
    this.debounces.set(
      form,
      setTimeout(
        () => {
          // What cannot be sent yet waits for the next letter.
          if (form.checkValidity()) this.submit(form, undefined, 'replace');
        },
        Number(form.getAttribute(debounceAttribute) ?? 300),
      ),
    );
  }

  /** Sends a form in place; false where the browser has to do it. */
  private submit(form: HTMLFormElement, submitter: HTMLElement | undefined, urlChange: 'push' | 'replace'): boolean {
    const action = submitAction(form, submitter, urlChange, this.regions());
    if (!action) return false;
    // A second press while the form is on its way changes nothing.
    if (this.pending.has(form)) return true;
    clearTimeout(this.debounces.get(form));
    this.act(action, form);
    return true;
  }

  private act(action: Action, element: Element): void {
    if (!send(element, 'loom:request', { url: action.url, region: action.region })) return;
    const { form, submitter, region: name } = action;
    const isSafe = action.method === 'GET';
    const region = () => elementOf(name, this.regions());
    if (form && !isSafe) this.pending.add(form);
    submitter?.setAttribute('aria-disabled', 'true');
    const since = now();
    this.queue.foreground({
      canBeReplaced: isSafe,
      run: async (signal) => {
        region()?.setAttribute('aria-busy', 'true');
        try {
          const reply = await ask(this.state, {
            region: name,
            // What was loaded from a URL of its own is no part of this page.
            only: region()?.hasAttribute(fromAttribute) ?? false,
            url: action.url,
            method: action.method,
            body: action.body,
            signal,
          });
          this.applyReply(reply, action, since, () => this.act(action, element));
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
  private applyReply(reply: Reply, action: Action, since: number, again: () => void): void {
    const { region: name } = action;
    const region = this.regions().get(name);
    if (reply.kind === 'navigate') {
      // The fragment of a link is not part of what was asked, and the browser wants it.
      location.assign(withFragment(reply.url, action.url));
      return;
    }
    if (reply.kind === 'failure') {
      showFailure(region, { url: action.url, name, reason: reply.reason }, action.method === 'GET' ? again : undefined);
      return;
    }
    hideFailure(region);
    const options = { since, sentForm: action.method === 'GET' ? undefined : action.form };
    const shown = newURL(reply, action);
    if (shown) keepPage();
    if (reply.kind === 'parts') {
      applyParts(this.state, reply.text, options);
    } else if (reply.kind === 'page' || !applyForeignPage(this.state, reply.text, name, options)) {
      if (reply.isGET && reply.kind === 'foreign-page') {
        location.assign(withFragment(reply.url, action.url));
        return;
      }
      this.state = applyPage(reply.text, options);
    }
    if (shown) setURL(shown.url, shown.how);
    this.sources.set(name, region?.hasAttribute(fromAttribute) ? reply.url : location.href);
    this.polls.refresh(this.regions());
    this.setFocus(reply.status, name);
  }

  /** After a refusal the first field in error has the focus; new content may ask for it too. */
  private setFocus(status: number, region: string): void {
    const scope = this.regions().get(region) ?? document.body;
    if (status === 422) scope.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
    else if (document.activeElement === document.body) scope.querySelector<HTMLElement>('[autofocus]')?.focus();
  }

  /** Asks for one region in the background. Nothing in the background ever navigates. */
  private async askRegion(name: string, url: string | undefined): Promise<PollResult> {
    let result: PollResult = 'failed';
    const source = url ?? this.sources.get(name) ?? location.href;
    const since = now();
    await this.queue.background(
      name,
      async () => {
        const reply = await ask(this.state, {
          region: name,
          only: name !== pageRegion,
          url: new URL(source, location.href).href,
          method: 'GET',
        });
        if (reply.kind !== 'parts' && reply.kind !== 'foreign-page') {
          result = reply.kind === 'failure' ? 'failed' : 'gone';
          const element = this.regions().get(name) ?? document.body;
          const reason = reply.kind === 'failure' ? reply.reason : 'The region is not on that page any more.';
          send(element, 'loom:failure', { url: source, region: name, reason });
          return undefined;
        }
        return reply;
      },
      (reply) => {
        if (reply.kind === 'parts') applyParts(this.state, reply.text, { since });
        const applied = reply.kind === 'parts' || applyForeignPage(this.state, reply.text, name, { since });
        result = applied ? 'applied' : 'gone';
        if (url !== undefined && applied) this.sources.set(name, url);
        this.polls.refresh(this.regions());
      },
    );
    return result;
  }

  private onPopState(event: PopStateEvent): void {
    this.queue.cancel();
    // The page that is being left still is; its place in the history is known.
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
    this.sources.clear();
    scrollTo(...snapshot.scroll);
    this.polls.refresh(this.regions());
    void this.askRegion(pageRegion, location.href);
  }
}

/** The answer’s URL, where the page has a new one: of the last request, when it can be asked for again. */
function newURL(
  reply: Extract<Reply, { isGET: boolean }>,
  action: Action,
): { url: string; how: 'push' | 'replace' } | undefined {
  if (!reply.isGET || action.urlChange === 'keep') return undefined;
  const url = withFragment(reply.url, action.method === 'GET' ? action.url : '');
  if (url === location.href) return undefined;
  return { url, how: action.urlChange };
}

function withFragment(url: string, asked: string): string {
  const { hash } = new URL(asked || url, location.href);
  return hash && !url.includes('#') ? url + hash : url;
}

/** The page was asked for as if no scripts ran; the URL need not say so any longer. */
function leaveSourceOrder(): void {
  const url = new URL(location.href);
  if (!url.searchParams.has(orderParameter)) return;
  url.searchParams.delete(orderParameter);
  history.replaceState(history.state, '', url);
}

/** Says to the server that a client runs, so that pages come with digests. */
function setClientCookie(): void {
  document.cookie = `${clientCookie}=1; path=/; samesite=lax; max-age=31536000`;
}
