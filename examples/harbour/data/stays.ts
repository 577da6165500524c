/** Stays as the harbour office sees them. */
import { and, asc, count, eq, gt, lt, ne } from 'drizzle-orm';
import type { Stay } from '../model.ts';
import type { Database } from './database.ts';
import { berths, boats, stays } from './schema.ts';

export interface StaffStay extends Stay {
  berth: string;
  berthId: number;
}

/** One day in the harbour. */
export interface Day {
  coming: StaffStay[];
  leaving: StaffStay[];
  /** How many stays wait for an answer. */
  requested: number;
}

const shown = {
  id: stays.id,
  boat: boats.name,
  berth: berths.name,
  berthId: berths.id,
  from: stays.from,
  until: stays.until,
  status: stays.status,
};

/** Who comes and who goes on a day. */
export async function dayInHarbour(database: Database, today: string): Promise<Day> {
  const accepted = eq(stays.status, 'accepted');
  const [coming, leaving, [waiting]] = await Promise.all([
    select(database)
      .where(and(accepted, eq(stays.from, today)))
      .orderBy(asc(berths.id)),
    select(database)
      .where(and(accepted, eq(stays.until, today)))
      .orderBy(asc(berths.id)),
    database
      .select({ requested: count() })
      .from(stays)
      .where(and(eq(stays.status, 'requested'), gt(stays.from, today))),
  ]);
  return { coming, leaving, requested: waiting?.requested ?? 0 };
}

/** Stays to come, the next first. */
export function staysToCome(database: Database, today: string, limit: number): Promise<StaffStay[]> {
  return select(database).where(gt(stays.from, today)).orderBy(asc(stays.from), asc(stays.id)).limit(limit);
}

/** Adds a stay; gives the first day on which another accepted stay has the berth, where one has. */
export async function addStay(
  database: Database,
  stay: Pick<typeof stays.$inferInsert, 'berthId' | 'boatId' | 'from' | 'until' | 'crew' | 'status'>,
): Promise<string | undefined> {
  const [other] = await database
    .select({ from: stays.from })
    .from(stays)
    .where(overlaps(stay))
    .orderBy(asc(stays.from));
  if (other) return [other.from, stay.from].sort()[1];
  await database.insert(stays).values(stay);
  return undefined;
}

/**
 * Accepts or refuses a stay.
 * @returns the stay as it is now; `taken` where another accepted stay of the berth overlaps; nothing where there is no such stay
 */
export async function answerStay(
  database: Database,
  id: number,
  status: 'accepted' | 'refused',
): Promise<StaffStay | 'taken' | undefined> {
  const [stay] = await select(database).where(eq(stays.id, id));
  if (!stay) return undefined;
  if (status === 'accepted') {
    const [other] = await database
      .select({ id: stays.id })
      .from(stays)
      .where(and(ne(stays.id, id), overlaps(stay)));
    if (other) return 'taken';
  }
  await database.update(stays).set({ status }).where(eq(stays.id, id));
  return { ...stay, status };
}

/** Accepted stays that have the same berth on one of these nights. */
function overlaps({ berthId, from, until }: Pick<StaffStay, 'berthId' | 'from' | 'until'>) {
  return and(eq(stays.berthId, berthId), eq(stays.status, 'accepted'), lt(stays.from, until), gt(stays.until, from));
}

function select(database: Database) {
  return database
    .select(shown)
    .from(stays)
    .innerJoin(boats, eq(boats.id, stays.boatId))
    .innerJoin(berths, eq(berths.id, stays.berthId));
}
