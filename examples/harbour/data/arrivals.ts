/** Questions about arrivals. */
import { desc, eq, lte, sql } from 'drizzle-orm';
import type { Arrival } from '../model.ts';
import type { Database } from './database.ts';
import { arrivals, berths, boats } from './schema.ts';

/** The latest arrivals before a moment, the newest first. */
export async function latestArrivals(database: Database, now: Date, limit: number, offset = 0): Promise<Arrival[]> {
  return database
    .select({
      id: arrivals.id,
      at: arrivals.at,
      boat: boats.name,
      kind: boats.kind,
      berth: berths.name,
      berthId: berths.id,
      lastPort: arrivals.lastPort,
    })
    .from(arrivals)
    .innerJoin(boats, eq(boats.id, arrivals.boatId))
    .innerJoin(berths, eq(berths.id, arrivals.berthId))
    .where(lte(arrivals.at, now.toISOString()))
    .orderBy(desc(arrivals.at), desc(arrivals.id))
    .limit(limit)
    .offset(offset);
}

/**
 * A boat comes in, at a berth that it may have.
 * @param pause milliseconds that have to lie between two: of several processes that ask at once, one is served
 * @returns its number; `undefined` where another one has just come
 */
export async function boatArrives(
  database: Database,
  now: Date,
  lastPort: string,
  pause: number,
): Promise<number | undefined> {
  const latest = new Date(now.getTime() - pause).toISOString();
  // Another process may have looked at the clock later, and come first.
  const soon = new Date(now.getTime() + pause).toISOString();
  const rows = await database.all<{ id: number }>(sql`
    insert into arrivals (boat_id, berth_id, at, last_port)
    select (select id from boats order by random() limit 1), (select id from berths order by random() limit 1),
      ${now.toISOString()}, ${lastPort}
    where ${pause} = 0 or not exists (select 1 from arrivals where at > ${latest} and at <= ${soon})
    returning id`);
  return rows[0]?.id;
}
