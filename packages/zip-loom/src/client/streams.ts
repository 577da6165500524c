/** Changes by name: those that came with an answer, and answers that consist of them, which come while the visitor goes on. */
import { pageRegion } from '../protocol/index.ts';
import type { Action } from './actions.ts';
import { elementOf } from './actions.ts';
import { applyAnswer } from './answers.ts';
import { liveRegions, type PageState } from './page.ts';
import type { Reply } from './requests.ts';
import { tools } from './tools.ts';
import { now } from './typing.ts';

export type Changes = Extract<Reply, { kind: 'changes' }>;

interface Around {
  state: PageState;
  limit: number;
  /** Called when an answer begins or ends. */
  onChange(): void;
  /** Called when the page has changed. */
  refresh(): void;
  /** Asks for regions, or for the page. */
  reload(regions: readonly string[]): void;
}

export interface Streams {
  /** What was done to which changes are still coming. */
  actions(): readonly Action[];
  /**
   * Puts changes into the page as they come.
   * @returns what is to be shown at the end; nothing where they were given up
   */
  follow(reply: Changes, action: Action, around: { isHere(): boolean; onLate(): void }): Promise<Reply | undefined>;
  /** Gives up changes of pages that are only looked at. */
  stop(isOver: (action: Action) => boolean): void;
  /** Makes the changes that came with the last answer. */
  makeChanges(): Promise<void>;
}

export function createStreams({ state, limit, onChange, refresh, reload }: Around): Streams {
  const streams = new Map<Action, Changes>();
  let loaded: typeof import('./changes/index.ts') | undefined;
  return { actions: () => [...streams.keys()], follow, stop, makeChanges };

  async function follow(
    reply: Changes,
    action: Action,
    { isHere, onLate }: { isHere(): boolean; onLate(): void },
  ): Promise<Reply | undefined> {
    streams.set(action, reply);
    onChange();
    const since = now();
    const isSafe = action.method === 'GET';
    const changes = await load();
    const apply = (arrived: Document) => {
      if (!isHere() || !streams.has(action)) return;
      applyAnswer(state, arrived, { since, isBackground: true });
      refresh();
    };
    const ending = await changes?.followChanges(tools, reply, { limit, isSafe, apply, onLate });
    const isWanted = streams.delete(action);
    onChange();
    return isWanted ? (ending ?? { kind: 'failure', code: 'unreachable' }) : undefined;
  }

  function stop(isOver: (action: Action) => boolean): void {
    for (const [action, reply] of streams)
      if (action.method === 'GET' && isOver(action) && streams.delete(action)) reply.stop();
  }

  async function makeChanges(): Promise<void> {
    if (state.changes.length > 0) {
      // What is loaded already is not waited for, so that changes come before what comes after them.
      const changes = loaded ?? (await load());
      changes?.applyChanges(tools, state, state.changes.splice(0), { since: now(), isBackground: true });
    }
    const wanted = [...state.wanted].filter((name) => elementOf(name, liveRegions(state)));
    state.wanted.clear();
    if (wanted.length > 0) reload(wanted.includes(pageRegion) ? [pageRegion] : wanted);
  }

  /** Nothing where a newer version of the site has other files. */
  async function load(): Promise<typeof loaded> {
    loaded ??= await import('./changes/index.ts').catch(() => undefined);
    return loaded;
  }
}
