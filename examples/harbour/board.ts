/** What everybody sees at once: boats that come in, stays that are answered. */
import { type Change, type Logger, put, reload, remove } from 'zip-loom';
import type { Channels } from 'zip-loom/channels';
import { boatArrives, latestArrivals } from './data/arrivals.ts';
import type { Database } from './data/database.ts';

/** So many arrivals are on the board of the home page. */
export const arrivalsOnBoard = 8;

/** Milliseconds before what could not be told is told again. */
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
  const { tell } = createTelling(channels, logger);
  return {
    async arrive(pause = 0) {
      const id = await boatArrives(database, now(), ports[Math.floor(Math.random() * ports.length)]!, pause);
      const latest = await latestArrivals(database, now(), arrivalsOnBoard + 1);
      const arrival = latest.find((one) => one.id === id);
      if (!arrival) return;
      const gone = latest.at(arrivalsOnBoard);
      // Each page takes of it what it has a place for.
      await tell('arrivals', [
        put('arrival-line', { arrival, now: now() }).atStartOf('arrivals'),
        put('arrival-row', { arrival }).atStartOf('arrivals-rows'),
        ...(gone ? [remove(`line-${gone.id}`)] : []),
      ]);
    },
    async stayAnswered({ id, berthId }) {
      // What a row shows of it depends on who looks.
      await tell('stays', [reload(`stay-${id}`)]);
      await tell(`berth-${berthId}`, [reload('stays')]);
    },
    refresh: () => tell('arrivals', [reload('arrivals'), reload('arrivals-rows')]),
  };
}

/** Publishes in order. What cannot be published now, because the broker is away, is published when it is back: it has happened. */
function createTelling(channels: Channels, logger: Logger | undefined) {
  const waiting: Array<[channel: string, changes: Change[]]> = [];
  let isTelling = false;

  async function tellAll(): Promise<void> {
    if (isTelling) return;
    isTelling = true;
    try {
      for (; waiting[0]; waiting.shift())
        await channels.publish(...waiting[0], { locale: 'en-GB', timeZone: 'Europe/London' });
    } catch (err) {
      logger?.warn({ err }, 'The harbour could not tell what has happened. It tries again.');
      setTimeout(tellAll, retryAfter).unref();
    } finally {
      isTelling = false;
    }
  }

  return {
    tell(channel: string, changes: Change[]): Promise<void> {
      waiting.push([channel, changes]);
      return tellAll();
    },
  };
}
