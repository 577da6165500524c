/** What everybody sees at once: boats that come in, stays that are answered. */
import { askAgain, put, remove } from 'zip-loom';
import type { Channels } from 'zip-loom/channels';
import { boatArrives, latestArrivals } from './data/arrivals.ts';
import type { Database } from './data/database.ts';

/** So many arrivals are on the board of the home page. */
export const arrivalsOnBoard = 8;

const ports = ['Skerry Head', 'Ellen Sound', 'Marrowick', 'Saltby Quay', 'Far Lantern', 'Oxney Pool', 'Thrift Haven'];

export interface Board {
  /** A boat comes in. */
  arrive(): Promise<void>;
  stayAnswered(stay: { id: number; berthId: number }): Promise<void>;
}

export function createBoard(channels: Channels, database: Database, now: () => Date): Board {
  return {
    async arrive() {
      await boatArrives(database, now(), ports[Math.floor(Math.random() * ports.length)]!);
      const [arrival, ...earlier] = await latestArrivals(database, now(), arrivalsOnBoard + 1);
      if (!arrival) return;
      const gone = earlier.at(arrivalsOnBoard - 1);
      // Each page takes of it what it has a place for.
      await channels.publish(
        'arrivals',
        [
          put('arrival-line', { arrival, now: now() }).atStartOf('arrivals'),
          put('arrival-row', { arrival, now: now() }).atStartOf('arrivals-rows'),
          ...(gone ? [remove(`line-${gone.id}`)] : []),
        ],
        { locale: 'en-GB', timeZone: 'Europe/London' },
      );
    },
    async stayAnswered({ id, berthId }) {
      // What a row shows of it depends on who looks.
      await channels.publish('stays', askAgain(`stay-${id}`));
      await channels.publish(`berth-${berthId}`, askAgain('stays'));
    },
  };
}
