/** The dialogs of a page, one over another, and their entries in the history: back closes the last, forward opens it again. */
import { dialogAttribute, openAttribute, pageRegion, submitOnAttribute } from '../../protocol/index.ts';
import type { Action, SubmitManner } from '../actions.ts';
import type { Errand } from '../errand.ts';
import type { Queue } from '../queue.ts';
import type { Failed, Reply, Shown } from '../requests.ts';
import type { Tools } from '../tools.ts';
import { ShownDialog } from './shown-dialog.ts';

export interface Around {
  queue: Pick<Queue<Errand>, 'foreground' | 'tasks'>;
  limit: number;
  regions(): ReadonlyMap<string, HTMLElement>;
  /** Asks for the page beneath, in the background. */
  confirm(mayGo: boolean): Promise<void>;
  /** Shows changes as they come. @returns what is to be shown at the end */
  follow(reply: Extract<Reply, { kind: 'changes' }>, action: Action): Promise<Reply | undefined>;
}

export interface Dialogs {
  /** Opens the page of a link. */
  open(link: HTMLAnchorElement): void;
  /** Whether a link in a dialog is answered there; nothing where it is in none. */
  click(link: HTMLAnchorElement): boolean | undefined;
  /** Whether a form in a dialog is answered there; nothing where it is in none. */
  submit(form: HTMLFormElement, submitter: HTMLElement | undefined, manner: SubmitManner): boolean | undefined;
}

/** A dialog as an entry of the history remembers it. */
interface Entry {
  url: string;
  what: string;
}

/** What a request for a page in a dialog says of the page that the browser has: nothing. */
const nowhere = { name: '', mark: '', digests: new Map<string, string>(), base: document.createElement('html') };

export function createDialogs(tools: Tools, { queue, limit, regions, confirm, follow }: Around): Dialogs {
  const open: ShownDialog[] = [];
  /** Dialogs of pages that were left, by the place of the page in the history. */
  const left = new Map<unknown, ShownDialog[]>();
  let place = placeNow();
  /** Forms that were typed in again while they were on their way. */
  const resend = new Map<HTMLFormElement, SubmitManner>();
  /** Whether the visitor has said already that the last one may close. */
  let mayClose = false;
  addEventListener('popstate', () => void sync());
  // After a reload they are open again.
  void sync();
  return { open: openLink, click, submit };

  /** Makes what is open what the entry of the history says. */
  async function sync(): Promise<void> {
    if (place !== placeNow()) {
      left.set(place, open.splice(0));
      for (const one of left.get(place)!.reverse()) one.vanish();
      place = placeNow();
      const kept = left.get(place)?.reverse() ?? [];
      left.delete(place);
      for (const one of kept.slice(0, entries().length)) {
        open.push(one);
        one.appear();
      }
    }
    const isSure = mayClose;
    mayClose = false;
    while (open.length > entries().length) {
      const last = open.at(-1)!;
      if (!isSure && last.isUnsaved && !globalThis.confirm(tools.textOf('discard'))) {
        history.go(open.length - entries().length);
        return;
      }
      open.pop();
      last.vanish();
      openerOf(last)?.focus({ preventScroll: true });
    }
    for (const entry of entries().slice(open.length)) {
      if (!(await load(entry, undefined, () => true))) return;
    }
  }

  function openLink(link: HTMLAnchorElement): void {
    const entry: Entry = { url: link.href, what: link.getAttribute(openAttribute)! };
    void load(entry, link, () => {
      history.pushState({ ...(history.state as object | null), dialogs: [...entries(), entry] }, '', location.href);
      return true;
    });
  }

  /** Asks for a page, and opens it. @param begin called before it appears */
  function load(entry: Entry, link: HTMLElement | undefined, begin: () => boolean): Promise<boolean> {
    return new Promise((resolve) => {
      const action: Action = { region: '', url: entry.url, method: 'GET', urlChange: 'keep', submitter: link };
      const dialog = new ShownDialog(tools, entry.what, link, close);
      const again = () => resolve(load(entry, link, begin));
      const target = link ?? document.body;
      if (!tools.send(target, 'loomrequest', { url: entry.url, region: dialog.element.id })) return resolve(false);
      queue.foreground({
        action,
        canBeReplaced: true,
        onLate: () => {},
        run: async (signal) => {
          const since = tools.now();
          const reply = await tools
            .ask(nowhere, { ...action, region: pageRegion, signal, limit })
            .catch(() => undefined);
          if (!reply || signal.aborted) return resolve(false);
          if (reply.kind === 'failure') return fail(reply, action, link, again);
          if ('url' in reply && !('text' in reply)) location.assign(reply.url);
          const fresh = 'text' in reply ? dialog.show(reply, { since }) : undefined;
          if (!fresh) return resolve(false);
          begin();
          open.push(dialog);
          dialog.appear();
          tools.focusAfter((reply as Shown).status, dialog.element, fresh);
          resolve(true);
        },
      });
    });
  }

  function click(link: HTMLAnchorElement): boolean | undefined {
    const dialog = dialogOf(link);
    if (!dialog) return undefined;
    if (link.href.split('#')[0] === location.href.split('#')[0]) {
      close();
      return true;
    }
    const action = tools.linkAction(link, dialog.regions);
    if (action) act(dialog, action, link);
    return action !== undefined;
  }

  function submit(
    form: HTMLFormElement,
    submitter: HTMLElement | undefined,
    manner: SubmitManner,
  ): boolean | undefined {
    const dialog = dialogOf(form);
    if (!dialog) return undefined;
    const action = tools.submitAction(form, submitter, manner, new Map([['', dialog.element]]));
    if (!action) return false;
    // A second press while the form is on its way changes nothing; what was typed meanwhile is sent after.
    if (!queue.tasks().some((one) => one.action.form === form && !one.canBeReplaced)) act(dialog, action, form);
    else if (manner.urlChange === 'replace') resend.set(form, manner);
    return true;
  }

  /** Sends a link or a form of a dialog, and shows there what comes back. */
  function act(dialog: ShownDialog, { region: _, ...said }: Action, element: Element): void {
    const { element: box } = dialog;
    const action: Action = { ...said, region: '' };
    if (!tools.send(element, 'loomrequest', { url: action.url, region: box.id })) return;
    const isSafe = action.method === 'GET';
    const since = tools.now();
    const before = document.activeElement;
    const again = () => act(dialog, action, element);
    queue.foreground({
      action,
      canBeReplaced: isSafe,
      patience: action.body instanceof FormData ? 10 : 1,
      onLate: () => fail({ kind: 'failure', code: 'late' }, action, box, undefined),
      run: async (signal, _isCurrent, alive) => {
        box.setAttribute('aria-busy', 'true');
        let isDone = false;
        // Where a form leads is not looked at: the page beneath shows what has come of it, and its messages.
        const send = async (url: string, init: RequestInit) => {
          const response = await fetch(url, { ...init, redirect: 'manual' });
          if (response.type !== 'opaqueredirect') return response;
          isDone = true;
          return Object.defineProperty(new Response(null, { status: 204 }), 'url', {
            value: new URL(url, document.baseURI).href,
          });
        };
        try {
          const request = { ...action, region: pageRegion, signal, limit, alive, send: isSafe ? undefined : send };
          let reply: Reply | undefined = await tools.ask(nowhere, request).catch(() => undefined);
          if (!isSafe) tools.changeStamp();
          if (reply?.kind === 'changes') reply = await follow(reply, action);
          // Not waited for: what is asked in the background waits for this.
          if (isDone) void succeed(dialog);
          else if (!reply || !open.includes(dialog)) {
            // The answer is for a dialog that was left, but what was done is done.
            if (!isSafe) void confirm(false);
          } else if (reply.kind === 'failure') fail(reply, action, box, isSafe ? again : undefined);
          else if (reply.kind === 'navigate') location.assign(reply.url);
          else if ('text' in reply) show(dialog, reply, action, tools.hasStayed(before, since), since);
        } finally {
          box.removeAttribute('aria-busy');
          const manner = action.form && resend.get(action.form);
          if (manner && resend.delete(action.form!))
            setTimeout(() => action.form!.isConnected && submit(action.form!, undefined, manner));
        }
      },
    });
  }

  function show(dialog: ShownDialog, reply: Shown, { form, method }: Action, mayFocus: boolean, since: number): void {
    const isRefused = reply.status >= 400;
    const sent = method === 'GET' || form?.hasAttribute(submitOnAttribute) ? undefined : form;
    tools.hideFailure(dialog.element, dialog.element.id);
    const options = { since, sentForm: isRefused ? undefined : sent, refusedForm: isRefused ? sent : undefined };
    const fresh = dialog.show(reply, options);
    if (!fresh) return;
    if (mayFocus) tools.focusAfter(reply.status, dialog.element, fresh);
    if (method !== 'GET') return;
    const [{ url }, what] = [reply, dialog.what];
    history.replaceState({ ...(history.state as object), dialogs: [...entries().slice(0, -1), { url, what }] }, '');
  }

  /** The form was taken: the dialog closes, and what is beneath is brought up to date. */
  async function succeed(dialog: ShownDialog): Promise<void> {
    const at = open.indexOf(dialog);
    if (at !== -1) {
      mayClose = true;
      const moved = new Promise<void>((resolve) => {
        addEventListener('popstate', () => resolve(), { once: true });
      });
      history.go(at - open.length);
      await moved;
    }
    // The page shows messages, and so it is asked first.
    await confirm(true);
    const beneath = open.at(-1);
    if (!beneath) return;
    const since = tools.now();
    const request = { region: pageRegion, url: beneath.url, signal: new AbortController().signal, limit };
    const reply = await tools.ask(nowhere, request).catch(() => undefined);
    if (reply && 'text' in reply && open.includes(beneath)) beneath.show(reply, { since, isBackground: true });
  }

  /** The visitor wants the last one to close. */
  function close(): boolean {
    const last = open.at(-1);
    if (mayClose) return true;
    if (last?.isUnsaved && !globalThis.confirm(tools.textOf('discard'))) return false;
    mayClose = last !== undefined;
    if (last) history.back();
    return true;
  }

  function fail({ code, status }: Failed, { url }: Action, near: HTMLElement | undefined, again?: () => void): void {
    const dialog = near && dialogOf(near);
    const region = dialog?.element.id ?? (near && tools.regionFor(near, regions())) ?? pageRegion;
    const target = dialog?.element ?? regions().get(region) ?? document.body;
    tools.showFailure(target, { url, region, code, status }, again);
  }

  function dialogOf(element: Element): ShownDialog | undefined {
    return open.findLast((one) => one.element.contains(element.closest(`[${dialogAttribute}]`)));
  }

  /** What opened a dialog, or after a reload the link that would. */
  function openerOf({ opener, url }: ShownDialog): HTMLElement | undefined {
    const links = [...document.querySelectorAll<HTMLAnchorElement>(`a[${openAttribute}]`)];
    return opener?.isConnected ? opener : links.find(({ href }) => href === url);
  }
}

function entries(): Entry[] {
  return (history.state as { dialogs?: Entry[] } | null)?.dialogs ?? [];
}

/** The place of the page beneath in the history. */
function placeNow(): unknown {
  return (history.state as { loom?: unknown } | null)?.loom;
}
