/** Back and forward: what a page looked like when it was left, then what it is now. */
import { pageRegion } from '../protocol/index.ts';
import type { Action } from './actions.ts';
import { applySnapshot } from './answers.ts';
import type { Errand } from './errand.ts';
import { enterPage, isElsewhere, keepPage, type Snapshot, setURL, stamp } from './history.ts';
import type { PageState } from './page.ts';
import type { Queue } from './queue.ts';
import { ask, type Failed, type Reply, type Shown } from './requests.ts';
import { now } from './typing.ts';
import { withFragment, withoutFragment } from './urls.ts';

interface Around {
  state: PageState;
  queue: Pick<Queue<Errand>, 'cancel' | 'foreground'>;
  limit: number;
  /** Called before another page is shown. */
  onLeave(): void;
  /** Asks for the page until the server has said what it is now. */
  confirm(mayGo: boolean): void;
  refresh(): void;
  fail(action: Action, failed: Failed, again: () => void): void;
  /** Puts an answer into the page. */
  apply(reply: Shown, since: number): void;
}

export interface Moves {
  /** Grows when the visitor goes back or forward: what was asked before belongs to another page. */
  visit(): number;
  /** Begins to listen. */
  begin(): void;
  /** Asks again for the page of the URL, where it is still not shown. */
  askAwaited(): void;
  /** The page of the URL is shown. */
  arrived(): void;
}

export function createMoves(around: Around): Moves {
  const { state, queue, limit, onLeave, confirm, refresh, fail, apply } = around;
  let visit = 0;
  /** The page of the URL while it is not shown yet. */
  let awaited: { snapshot: Snapshot | undefined } | undefined;
  return {
    visit: () => visit,
    begin,
    askAwaited: () => awaited && askWhole(awaited.snapshot),
    arrived() {
      awaited = undefined;
    },
  };

  function begin(): void {
    /** The stamp when the page was hidden. */
    let stampLeft = '';
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
  }

  function onMove(entry: unknown): void {
    if (!isElsewhere(entry)) return;
    // The page that is being left still is; its place in the history is known.
    keepPage(state);
    visit++;
    onLeave();
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
        const reply: Reply | undefined = await ask(state, { ...action, signal, limit }).catch(() => undefined);
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
        apply(reply, since);
        refresh();
        if (withoutFragment(reply.url) === withoutFragment(url)) snapshot?.restore();
      },
    });
  }
}
