/** The client: links and forms inside regions, asked and answered in place. */
import { fromAttribute, pageRegion, submitOnAttribute } from '../protocol/index.ts';
import { type Action, clickedLink, elementOf, linkAction, type SubmitManner, submitAction } from './actions.ts';
import { prepareAnnouncer } from './announcer.ts';
import { type Applied, type ApplyOptions, applyForeignPage, applyPage, applyParts } from './answers.ts';
import { createBackground } from './background.ts';
import { createBusy } from './busy.ts';
import { resetForm } from './controls.ts';
import type { Errand } from './errand.ts';
import { send } from './events.ts';
import { hideFailure, showFailure } from './failures.ts';
import { focusAfter, hasStayed } from './focus.ts';
import { watchForms } from './form-controls.ts';
import { beginHistory, changeStamp, keepPage, setURL } from './history.ts';
import { createLater } from './later.ts';
import { createMoves } from './moves.ts';
import { liveRegions, noteSource, readPage } from './page.ts';
import { createPolls } from './polls.ts';
import { createQueue } from './queue.ts';
import { ask, type Failed, type Reply, type Shown } from './requests.ts';
import type { StartOptions } from './start-options.ts';
import { type Changes, createStreams } from './streams.ts';
import { tellServer } from './tell-server.ts';
import { setTexts } from './texts.ts';
import { change } from './transitions.ts';
import { now, watchTyping } from './typing.ts';
import { decoded, newURL, withFragment } from './urls.ts';

/** When the visitor did it, and where they were. */
interface Moment {
  since: number;
  before: Element | null;
}

/** What scripts of the page may do. */
export interface Client {
  /** Asks for a region anew, in the background. */
  reload(region: string, url?: string): Promise<void>;
  /** Applies the server’s markup that came by other means. */
  apply(html: string): Promise<void>;
}

/** Begins to listen. */
export function startClient({
  requestTimeout: limit = 30_000,
  listenAfter = 4500,
  texts,
  send: sender,
}: StartOptions): Client {
  const state = readPage();
  const regions = () => liveRegions(state);
  const elementFor = (region: string) => elementOf(region, regions()) ?? document.body;
  /** Forms that were typed in again while they were on their way. */
  const resend = new Map<HTMLFormElement, SubmitManner>();
  const queue = createQueue<Errand>(limit, () => showBusy());
  const sayBusy = createBusy(regions);
  const showBusy = () =>
    sayBusy(
      queue.tasks().map(({ action }) => action),
      streams.actions(),
    );
  const refresh = () => {
    refreshPolls(regions());
    streams.stop(({ region }) => elementOf(region, regions()) === undefined);
    void streams.makeChanges();
    void later.listen();
  };
  const { askRegions, askTogether, confirm } = createBackground({
    state,
    queue,
    limit,
    visit: () => moves.visit(),
    refresh,
  });
  const refreshPolls = createPolls(askRegions);
  const streams = createStreams({
    state,
    limit,
    onChange: showBusy,
    refresh,
    reload: (names) => (names[0] === pageRegion ? confirm() : void askRegions(names)),
  });
  const moves = createMoves({
    state,
    queue,
    limit,
    onLeave: () => streams.stop(() => true),
    confirm,
    refresh,
    fail,
    apply: (reply, since) => void applyReply(reply, pageRegion, { since }),
  });
  const later = createLater({
    state,
    queue,
    limit,
    regions,
    confirm,
    follow: (reply, action) => streams.follow(reply, action, { isHere: () => true, onLate: () => {} }),
    listenAfter,
    ask: (names) => void askRegions(names),
    apply: applyHere,
  });
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
    const link = clickedLink(event);
    if (!link) return;
    const isTaken = later.open(link) || later.dialogs()?.click(link);
    const action = isTaken === undefined ? linkAction(link, regions()) : undefined;
    if (isTaken || action) event.preventDefault();
    if (action) act(action, link);
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
  moves.begin();
  refresh();
  later.restore();

  return {
    async reload(region, url) {
      await askTogether([region], url);
    },
    async apply(html) {
      applyHere(html);
      await streams.makeChanges();
    },
  };

  /** Puts into the page what came by other means. */
  function applyHere(html: string): void {
    applyParts(state, html, { since: now(), isBackground: true });
    refresh();
  }

  /** Sends a form in place; false where the browser has to do it. */
  function submit(form: HTMLFormElement, submitter: HTMLElement | undefined, manner: SubmitManner): boolean {
    const isTaken = later.dialogs()?.submit(form, submitter, manner);
    if (isTaken !== undefined) return isTaken;
    const action = submitAction(form, submitter, manner, regions());
    if (!action) return false;
    noteSent(form);
    // A second press while the form is on its way changes nothing; what was typed meanwhile is sent after.
    const isOnItsWay =
      streams.actions().some((one) => one.form === form && one.method !== 'GET') ||
      queue.tasks().some((one) => one.action.form === form && !one.canBeReplaced);
    if (!isOnItsWay) act(action, form);
    else if (manner.urlChange === 'replace') resend.set(form, manner);
    return true;
  }

  function act(action: Action, element: Element): void {
    const { region, form, url } = action;
    if (!send(element.isConnected ? element : document.body, 'loomrequest', { url, region })) return;
    const isSafe = action.method === 'GET';
    const mine = moves.visit();
    const moment = { since: now(), before: document.activeElement };
    const again = () => act(action, element);
    streams.stop((one) => one.region === region);
    queue.foreground({
      action,
      canBeReplaced: isSafe,
      // The module for uploads knows better.
      patience: !sender && action.body instanceof FormData ? 10 : 1,
      onLate: () => fail(action, { kind: 'failure', code: 'late' }),
      run: async (signal, isCurrent, alive) => {
        // What was loaded from a URL of its own is no part of this page.
        const only = regions().get(region)?.hasAttribute(fromAttribute) ? [region] : undefined;
        const reply = await ask(state, { ...action, only, signal, limit, send: sender, alive }).catch(
          (error: unknown) => {
            if (!signal.aborted) throw error;
          },
        );
        if (!isSafe) changeStamp();
        if (reply?.kind === 'changes') {
          // What is left of it may take long, and holds nobody up.
          void follow(reply, action, moment, isCurrent, isSafe ? again : undefined);
        } else if (reply && mine === moves.visit() && isCurrent())
          await show(reply, action, moment, isSafe ? again : undefined);
        // The answer is for a page that was left, but what was done is done.
        else if (!isSafe) confirm();
        // What came between must not leave the page of another URL.
        if (!signal.aborted) moves.askAwaited();
        const manner = form && resend.get(form);
        if (manner && resend.delete(form)) setTimeout(() => form.isConnected && submit(form, undefined, manner));
      },
    });
  }

  /** Shows changes as they come, and then what they end with. */
  async function follow(
    reply: Changes,
    action: Action,
    moment: Moment,
    isCurrent: () => boolean,
    again?: () => void,
  ): Promise<void> {
    const mine = moves.visit();
    const ending = await streams.follow(reply, action, {
      isHere: () => mine === moves.visit(),
      onLate: () => fail(action, { kind: 'failure', code: 'late' }),
    });
    const isSafe = action.method === 'GET';
    if (!isSafe) changeStamp();
    if (!ending) return;
    if (mine === moves.visit() && (ending.kind === 'failure' || isCurrent())) {
      const { form } = action;
      const isDone = form && !isSafe && ending.kind === 'parts' && !form.hasAttribute(submitOnAttribute);
      if (isDone) resetForm(form, moment.since);
      await show(ending, action, moment, again);
    } else if (!isSafe) confirm();
  }

  function fail(action: Action, { code, status, details }: Failed, again?: () => void): void {
    const { region, url, method } = action;
    showFailure(elementFor(region), { url, region, code, status, details }, again);
    // Nobody knows what the server has done.
    if (method !== 'GET') confirm();
  }

  /** Shows what came back of an action. */
  async function show(
    reply: Reply,
    action: Action,
    { since, before }: Moment,
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
      if (url) moves.arrived();
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
}
