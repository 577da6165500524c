/** What is asked for in the background: polls, regions that load themselves, and what the page is now. */
import { fromAttribute, pageRegion } from '../protocol/index.ts';
import { type Applied, applyForeignPage, applyPage, applyParts } from './answers.ts';
import { hideFailure, tellFailure } from './failures.ts';
import { setURL } from './history.ts';
import { liveRegions, noteSource, type PageState, sourceOf } from './page.ts';
import type { PollResult, PollResults } from './polls.ts';
import type { Queue, Task } from './queue.ts';
import { ask, type Failed, longestHeader } from './requests.ts';
import { now } from './typing.ts';

export interface Background {
  askRegions(names: readonly string[]): Promise<PollResults>;
  askTogether(names: readonly string[], url?: string, mayGo?: boolean): Promise<PollResults>;
  confirm(mayGo?: boolean): Promise<void>;
}

interface Around {
  state: PageState;
  queue: Pick<Queue<Task>, 'background'>;
  limit: number;
  /** Grows when the visitor goes back or forward. */
  visit(): number;
  /** Called when the page has changed. */
  refresh(): void;
}

export function createBackground({ state, queue, limit, visit, refresh }: Around): Background {
  const regions = () => liveRegions(state);
  return { askRegions, askTogether, confirm };

  /** Asks for regions in the background, those of one URL together. */
  async function askRegions(names: readonly string[]): Promise<PollResults> {
    const groups: Array<{ url: string | undefined; some: string[]; length: number }> = [];
    for (const name of names) {
      const region = regions().get(name);
      const url = region?.hasAttribute(fromAttribute) ? sourceOf(state, name, region) : undefined;
      const open = groups.find((one) => one.url === url && one.length + name.length < longestHeader);
      const group = open ?? { url, some: [], length: 0 };
      if (!open) groups.push(group);
      group.some.push(name);
      group.length += name.length + 2;
    }
    const results = await Promise.all(groups.map(({ url, some }) => askTogether(some, url)));
    return new Map(results.flatMap((one) => [...one]));
  }

  /**
   * Asks for regions, or the page, in the background.
   * @param url where from; default: the URL of the page when it is asked
   * @param mayGo whether another page may come of it, as after going back; nothing else in the background ever navigates
   */
  async function askTogether(names: readonly string[], url?: string, mayGo = false): Promise<PollResults> {
    const results = new Map<string, PollResult>();
    const since = now();
    const region = names[0]!;
    const only = region === pageRegion ? undefined : names;
    await queue.background(
      names,
      (signal) => {
        const from = new URL(url ?? sourceOf(state, region, regions().get(region)), document.baseURI).href;
        return ask(state, { region, only, url: from, signal, limit });
      },
      (reply, isNewest) => {
        // What was gone back to is nobody’s background: the page of then gives way to that of now.
        const options = { since, isBackground: !mayGo };
        const isFailure = reply.kind === 'failure';
        let applied: Applied | undefined;
        if (!only && !isFailure) hideFailure(document.body, region);
        // Changes are an answer to what a visitor does.
        if (reply.kind === 'changes') reply.stop();
        if (reply.kind === 'parts') {
          applied = applyParts(state, reply.text, options, (name) => !only || isNewest(name));
        } else if (mayGo && reply.kind === 'page') {
          setURL(reply.url, 'replace');
          applied = applyPage(state, reply.text, options);
        } else if (mayGo && 'url' in reply) location.replace(reply.url);
        else if (reply.kind === 'foreign-page') applied = applyForeignPage(state, reply.text, region, options);
        for (const name of names) {
          const isApplied = applied && (!only || applied.regions.has(name) || !isNewest(name));
          results.set(name, isApplied ? 'applied' : isFailure ? 'failed' : 'gone');
          if (isApplied && url) noteSource(state, name, regions().get(name), url);
          const failure: Partial<Failed> = isFailure ? reply : {};
          if (!isApplied)
            tellFailure(regions().get(name) ?? document.body, {
              url: url ?? location.href,
              region: name,
              code: 'gone',
              ...failure,
            });
        }
        refresh();
      },
    );
    return results;
  }

  /** Asks for the page until the server has said what it is now. The result is there when it was asked once. */
  async function confirm(mayGo = false, wait = 1000): Promise<void> {
    const mine = visit();
    const results = await askTogether([pageRegion], undefined, mayGo);
    if (results.get(pageRegion) === 'failed' && wait < 60_000)
      setTimeout(() => mine === visit() && confirm(mayGo, 2 * wait), wait);
  }
}
