/** What everybody sees at once: boats that come in, stays that are answered. */
import { type Change, type Logger, put, reload, remove } from 'zip-loom';
import type { Channels } from 'zip-loom/channels';
import { boatArrives, latestArrivals } from './data/arrivals.ts';
import type { Database } from './data/database.ts';

/** So many arrivals are on the board of the home page. */
export const arrivalsOnBoard = 8;

/** Milliseconds before pages are told again to ask for what could not be published. */
const retryAfter = 1000;

const ports = ['Skerry Head', 'Ellen Sound', 'Marrowick', 'Saltby Quay', 'Far Lantern', 'Oxney Pool', 'Thrift Haven'];

export interface Board {
  /** A boat comes in, unless another one has come within so many milliseconds. */
  arrive(pause?: number): Promise<void>;
  stayAnswered(stay: { id: number; berthId: number }): Promise<void>;
  /** Whatever a process before this one has done and had no time to tell: pages ask for it. */
  refresh(): Promise<void>;
}

interface Needs {
  channels: Channels;
  database: Database;
  now: () => Date;
  logger: Logger | undefined;
}

export function createBoard({ channels, database, now, logger }: Needs): Board {
  const tell = createTelling(channels, logger);
  const boards = [reload('arrivals'), reload('arrivals-rows')];
  const refresh = () => tell('arrivals', boards);
  return {
    async arrive(pause = 0) {
      const id = await boatArrives(database, now(), ports[Math.floor(Math.random() * ports.length)]!, pause);
      const latest = await latestArrivals(database, now(), arrivalsOnBoard + 1);
      const arrival = latest.find((one) => one.id === id);
      if (!arrival) return;
      const gone = latest.at(arrivalsOnBoard);
      // Each page takes the changes that it has a place for.
      const changes = [
        put('arrival-line', { arrival, now: now() }).atStartOf('arrivals'),
        put('arrival-row', { arrival }).atStartOf('arrivals-rows'),
        ...(gone ? [remove(`line-${gone.id}`)] : []),
      ];
      await tell('arrivals', changes, boards);
      // Another process may have published a later boat first: the rows would stand in the wrong order.
      const [last] = await latestArrivals(database, now(), 1);
      if (last?.id !== id) await refresh();
    },
    async stayAnswered({ id, berthId }) {
      // What a row shows of it depends on who looks.
      await tell('stays', [reload(`stay-${id}`)]);
      await tell(`berth-${berthId}`, [reload('stays')]);
    },
    refresh,
  };
}

/**
 * Publishes changes. Where the broker cannot be reached, pages reload when it can be: other processes have published meanwhile, so that
 * the changes themselves would come too late for the order of a list.
 */
function createTelling(channels: Channels, logger: Logger | undefined) {
  const place = { locale: 'en-GB', timeZone: 'Europe/London' };
  /** Lists that pages have to load again, by channel. */
  const missed = new Map<string, Set<Change>>();

  async function tryAgain(): Promise<void> {
    const waiting = [...missed];
    missed.clear();
    for (const [channel, reloads] of waiting) await publish(channel, [...reloads], [...reloads]);
  }

  async function publish(channel: string, changes: readonly Change[], reloads: readonly Change[]): Promise<void> {
    try {
      await channels.publish(channel, changes, place);
    } catch (err) {
      logger?.warn({ err }, 'The harbour could not tell what has happened. It tries again.');
      if (missed.size === 0) setTimeout(tryAgain, retryAfter).unref();
      missed.set(channel, new Set([...(missed.get(channel) ?? []), ...reloads]));
    }
  }

  return (channel: string, changes: readonly Change[], reloads = changes) => publish(channel, changes, reloads);
}
