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

/** A boat comes in, at a berth that it may have. */
export async function boatArrives(database: Database, now: Date, lastPort: string): Promise<void> {
  const [boat] = await database.select({ id: boats.id }).from(boats).orderBy(sql`random()`).limit(1);
  const [berth] = await database.select({ id: berths.id }).from(berths).orderBy(sql`random()`).limit(1);
  if (boat && berth)
    await database.insert(arrivals).values({ boatId: boat.id, berthId: berth.id, at: now.toISOString(), lastPort });
}
