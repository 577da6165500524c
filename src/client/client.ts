/** The client: links and forms inside regions, asked and answered in place. */
import { fromAttribute, pageRegion, submitOnAttribute } from '../protocol/index.ts';
import { type Action, clickAction, elementOf, type SubmitManner, submitAction } from './actions.ts';
import { prepareAnnouncer } from './announcer.ts';
import { type Applied, type ApplyOptions, applyForeignPage, applyPage, applyParts, applySnapshot } from './answers.ts';
import { createBackground } from './background.ts';
import { send } from './events.ts';
import { hideFailure, showFailure } from './failures.ts';
import { focusAfter, hasStayed } from './focus.ts';
import { watchForms } from './form-controls.ts';
import {
  beginHistory,
  changeStamp,
  enterPage,
  isElsewhere,
  keepPage,
  type Snapshot,
  setURL,
  stamp,
} from './history.ts';
import { liveRegions, noteSource, readPage } from './page.ts';
import { createPolls } from './polls.ts';
import { createQueue, type Task } from './queue.ts';
import { ask, type Failed, type Reply } from './requests.ts';
import type { StartOptions } from './start-options.ts';
import { tellServer } from './tell-server.ts';
import { setTexts } from './texts.ts';
import { change } from './transitions.ts';
import { now, watchTyping } from './typing.ts';
import { decoded, newURL, withFragment, withoutFragment } from './urls.ts';

/** What the visitor did, while it is on its way. */
interface Errand extends Task {
  action: Action;
}

/** An answer with something to show. */
type Shown = Extract<Reply, { text: string }>;

/** What scripts of the page may do. */
export interface Client {
  /** Asks for a region anew, in the background. */
  reload(region: string, url?: string): Promise<void>;
  /** Applies the server’s markup that came by other means. */
  apply(html: string): void;
}

/** Begins to listen. */
export function startClient({ requestLimit: limit = 30_000, texts, send: sender }: StartOptions): Client {
  const state = readPage();
  const regions = () => liveRegions(state);
  const elementFor = (region: string) => elementOf(region, regions()) ?? document.body;
  /** Forms that were typed in again while they were on their way. */
  const resend = new Map<HTMLFormElement, SubmitManner>();
  /** What says on the page that something is on its way: elements, and the attribute of each. */
  let busy = new Map<Element, string>();
  /** Grows when the visitor goes back or forward: what was asked before belongs to another page. */
  let visit = 0;
  /** The page of the URL while it is not shown yet. */
  let awaited: { snapshot: Snapshot | undefined } | undefined;
  /** The stamp when the page was hidden. */
  let stampLeft = '';
  const queue = createQueue<Errand>(limit, showBusy);
  const refresh = () => refreshPolls(regions());
  const { askRegions, askTogether, confirm } = createBackground({ state, queue, limit, visit: () => visit, refresh });
  const refreshPolls = createPolls(askRegions);
  const { noteSent } = watchForms({
    submit: (form, edit) => submit(form, undefined, { urlChange: 'replace', edit }),
    reload: (region, url) => void askTogether([region], url),
  });

  if (texts) setTexts(texts);
  tellServer();
  beginHistory();
  // The first look at what is stored may take a while.
  setTimeout(changeStamp);
  prepareAnnouncer();
  watchTyping(document);
  document.addEventListener('click', (event) => {
    const clicked = clickAction(event, regions());
    if (!clicked) return;
    event.preventDefault();
    act(clicked.action, clicked.link);
  });
  document.addEventListener('submit', (event) => {
    const { target: form, submitter, defaultPrevented } = event;
    if (
      form instanceof HTMLFormElement &&
      !defaultPrevented &&
      submit(form, submitter ?? undefined, { urlChange: 'push' })
    )
      event.preventDefault();
  });
  addEventListener('popstate', (event) => onMove(event.state));
  addEventListener('hashchange', () => onMove(history.state));
  addEventListener('pagehide', () => {
    stampLeft = stamp();
  });
  addEventListener('pageshow', ({ persisted }) => {
    if (!persisted) return;
    if (stampLeft === stamp()) {
      confirm(true);
      return;
    }
    // From the browser’s own cache, as it was; but something has changed since.
    document.body.hidden = true;
    askWhole();
  });
  refresh();

  return {
    async reload(region, url) {
      await askTogether([region], url);
    },
    apply(html) {
      applyParts(state, html, { since: now(), isBackground: true });
      refresh();
    },
  };

  /** Sends a form in place; false where the browser has to do it. */
  function submit(form: HTMLFormElement, submitter: HTMLElement | undefined, manner: SubmitManner): boolean {
    const action = submitAction(form, submitter, manner, regions());
    if (!action) return false;
    noteSent(form);
    // A second press while the form is on its way changes nothing; what was typed meanwhile is sent after.
    if (!queue.tasks().some((one) => one.action.form === form && !one.canBeReplaced)) act(action, form);
    else if (manner.urlChange === 'replace') resend.set(form, manner);
    return true;
  }

  function act(action: Action, element: Element): void {
    const { region, form, url } = action;
    if (!send(element.isConnected ? element : document.body, 'loom:request', { url, region })) return;
    const isSafe = action.method === 'GET';
    const mine = visit;
    const moment = { since: now(), before: document.activeElement };
    const again = () => act(action, element);
    queue.foreground({
      action,
      canBeReplaced: isSafe,
      // The module for uploads knows better.
      patience: !sender && action.body instanceof FormData ? 10 : 1,
      onLate: () => fail(action, { kind: 'failure', reason: 'late' }),
      run: async (signal, isCurrent, alive) => {
        // What was loaded from a URL of its own is no part of this page.
        const only = regions().get(region)?.hasAttribute(fromAttribute) ? [region] : undefined;
        const reply = await ask(state, { ...action, only, signal, limit, send: sender, alive }).catch(
          (error: unknown) => {
            if (!signal.aborted) throw error;
          },
        );
        if (!isSafe) changeStamp();
        if (reply && mine === visit && isCurrent()) await show(reply, action, moment, isSafe ? again : undefined);
        // The answer is for a page that was left, but what was done is done.
        else if (!isSafe) confirm();
        // What came between must not leave the page of another URL.
        if (awaited && !signal.aborted) askWhole(awaited.snapshot);
        const manner = form && resend.get(form);
        if (manner && resend.delete(form)) setTimeout(() => form.isConnected && submit(form, undefined, manner));
      },
    });
  }

  /** Says what is on its way, and nothing else. */
  function showBusy(tasks: readonly Errand[]): void {
    const next = new Map<Element, string>();
    for (const { action } of tasks) {
      const region = elementOf(action.region, regions());
      if (region) next.set(region, 'aria-busy');
      if (action.submitter) next.set(action.submitter, 'aria-disabled');
    }
    for (const [element, attribute] of busy) if (!next.has(element)) element.removeAttribute(attribute);
    for (const [element, attribute] of next) element.setAttribute(attribute, 'true');
    busy = next;
  }

  function fail(action: Action, { reason, status }: Failed, again?: () => void): void {
    const { region, url, method } = action;
    showFailure(elementFor(region), { url, region, reason, status }, again);
    // Nobody knows what the server has done.
    if (method !== 'GET') confirm();
  }

  /** Shows what came back of an action. */
  async function show(
    reply: Reply,
    action: Action,
    { since, before }: { since: number; before: Element | null },
    again: (() => void) | undefined,
  ): Promise<void> {
    const { region: name } = action;
    if (reply.kind === 'failure') {
      fail(action, reply, again);
      return;
    }
    hideFailure(elementFor(name), name);
    // The fragment of a link is not part of what was asked, and the browser wants it.
    if (reply.kind === 'navigate') location.assign(withFragment(reply.url, action.url));
    if (!('text' in reply)) return;
    const form = action.method === 'GET' ? undefined : action.form;
    const isRefused = reply.status >= 400;
    // What is sent while it is typed is never done.
    const isDone = !isRefused && !form?.hasAttribute(submitOnAttribute);
    const options = { since, sentForm: isDone ? form : undefined, refusedForm: isRefused ? form : undefined };
    const url = newURL(reply, action);
    const { href } = location;
    const mayFocus = hasStayed(before, since);
    // What is sent and done with is not kept; a draft that was saved is.
    if (url) keepPage(state, form?.hasAttribute(submitOnAttribute) ? undefined : action.form);
    await change(() => {
      // Relative URLs of the answer are relative to its own.
      if (url) setURL(url, action.urlChange as 'push' | 'replace');
      const applied = applyReply(reply, name, options);
      if (!applied) {
        if (url) setURL(href, 'replace');
        location.assign(withFragment(reply.url, action.url));
        return;
      }
      if (url) awaited = undefined;
      noteSource(state, name, regions().get(name), reply.url);
      refresh();
      if (url && location.hash) document.getElementById(decoded(location.hash.slice(1)))?.scrollIntoView();
      else if (url && reply.kind !== 'parts' && name !== pageRegion) scrollTo(0, 0);
      if (mayFocus) focusAfter(reply.status, elementFor(name), applied.fresh);
    });
  }

  /** Puts an answer into the page; nothing where the browser has to go there itself. */
  function applyReply(reply: Shown, name: string, options: ApplyOptions): Applied | undefined {
    if (reply.kind === 'parts') return applyParts(state, reply.text, options);
    const applied = reply.kind === 'page' ? undefined : applyForeignPage(state, reply.text, name, options);
    return applied ?? (reply.kind === 'page' || !reply.isGET ? applyPage(state, reply.text, options) : undefined);
  }

  function onMove(entry: unknown): void {
    if (!isElsewhere(entry)) return;
    // The page that is being left still is; its place in the history is known.
    keepPage(state);
    visit++;
    queue.cancel();
    const snapshot = enterPage();
    if (snapshot?.stamp !== stamp()) {
      askWhole(snapshot);
      return;
    }
    awaited = undefined;
    applySnapshot(state, snapshot.page);
    document.title = snapshot.title;
    snapshot.restore();
    refresh();
    confirm(true);
  }

  /** Asks for the page of the URL before anything of it is shown: what it was may be no longer for the one who looks. */
  function askWhole(snapshot?: Snapshot): void {
    const mine = visit;
    const since = now();
    const { href: url } = location;
    awaited = { snapshot };
    const action: Action = { region: pageRegion, url, method: 'GET', urlChange: 'keep' };
    queue.foreground({
      action,
      canBeReplaced: true,
      onLate: () => {},
      run: async (signal) => {
        const reply = await ask(state, { ...action, signal, limit }).catch(() => undefined);
        if (!reply || signal.aborted || mine !== visit) return;
        awaited = undefined;
        if (reply.kind === 'failure') {
          // What was hidden may be no longer for the one who looks; the browser says why it has nothing.
          if (document.body.hidden) location.reload();
          fail(action, reply, () => askWhole(snapshot));
          confirm(true);
          return;
        }
        document.body.hidden = false;
        if (!('text' in reply) || reply.kind === 'foreign-page') {
          location.replace('url' in reply ? reply.url : url);
          return;
        }
        setURL(withFragment(reply.url, url), 'replace');
        applyReply(reply, pageRegion, { since });
        refresh();
        if (withoutFragment(reply.url) === withoutFragment(url)) snapshot?.restore();
      },
    });
  }
}
