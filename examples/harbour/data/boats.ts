/** Questions about boats, and what changes them. */
import { asc, count, eq, like, sql } from 'drizzle-orm';
import type { Boat } from '../model.ts';
import type { Database } from './database.ts';
import { arrivals, boats, removed, stays } from './schema.ts';

const boatsPerPage = 16;

/** What the form of a boat gives. */
export type BoatValues = Pick<Boat, 'name' | 'kind' | 'length' | 'homePort'> & {
  insuredUntil?: string | undefined;
  about?: string | undefined;
};

/** What becomes of the files of a boat: those that are missing stay as they are. */
export type BoatFiles = Partial<Pick<Boat, 'photo' | 'insurance'>>;

export interface BoatPage {
  boats: Boat[];
  total: number;
  page: number;
  pages: number;
}

export async function listBoats(database: Database, wanted: number): Promise<BoatPage> {
  const [counted] = await database.select({ total: count() }).from(boats);
  const total = counted?.total ?? 0;
  const pages = Math.max(1, Math.ceil(total / boatsPerPage));
  const page = Math.min(Math.max(1, wanted), pages);
  const rows = await database
    .select()
    .from(boats)
    .orderBy(asc(boats.name), asc(boats.id))
    .limit(boatsPerPage)
    .offset((page - 1) * boatsPerPage);
  return { boats: rows, total, page, pages };
}

export async function findBoat(database: Database, id: number): Promise<Boat | undefined> {
  const [found] = await database.select().from(boats).where(eq(boats.id, id));
  return found;
}

/** Adds a boat and gives its number. */
export async function addBoat(database: Database, values: BoatValues & BoatFiles, skipper: string): Promise<number> {
  const [added] = await database
    .insert(boats)
    .values({ ...row(values), skipper })
    .returning({ id: boats.id });
  return added!.id;
}

export async function changeBoat(database: Database, id: number, values: BoatValues & BoatFiles): Promise<void> {
  const revision = sql`${boats.revision} + 1`;
  await database
    .update(boats)
    .set({ ...row(values), revision })
    .where(eq(boats.id, id));
}

/** Removes a boat with its stays and arrivals, so that it can come back. */
export async function removeBoat(database: Database, boat: Boat): Promise<void> {
  const { id } = boat;
  await database.transaction(async (change) => {
    await change.insert(removed).values({
      id,
      boat,
      stays: await change.delete(stays).where(eq(stays.boatId, id)).returning(),
      arrivals: await change.delete(arrivals).where(eq(arrivals.boatId, id)).returning(),
    });
    await change.delete(boats).where(eq(boats.id, id));
  });
}

/** Puts a boat back into the book. @returns the boat; nothing where it was not removed, or is back already */
export async function restoreBoat(database: Database, id: number): Promise<Boat | undefined> {
  return database.transaction(async (change) => {
    const [kept] = await change.delete(removed).where(eq(removed.id, id)).returning();
    if (!kept) return undefined;
    await change.insert(boats).values(kept.boat);
    if (kept.stays.length > 0) await change.insert(stays).values(kept.stays);
    if (kept.arrivals.length > 0) await change.insert(arrivals).values(kept.arrivals);
    return kept.boat;
  });
}

const shownAsChoice = { value: boats.id, label: sql<string>`${boats.name} || ', ' || ${boats.homePort}` };

/** A few boats whose names hold a text, to choose from. */
export async function boatsByName(database: Database, text: string): Promise<Array<{ value: number; label: string }>> {
  const wanted = `%${text.replace(/[%_]/g, '')}%`;
  return database
    .select(shownAsChoice)
    .from(boats)
    .where(like(shownAsChoice.label, wanted))
    .orderBy(asc(boats.name))
    .limit(10);
}

export async function boatChoice(
  database: Database,
  id: number,
): Promise<{ value: number; label: string } | undefined> {
  const [found] = await database.select(shownAsChoice).from(boats).where(eq(boats.id, id));
  return found;
}

/** What was not given is removed. */
function row(values: BoatValues & BoatFiles) {
  return { ...values, insuredUntil: values.insuredUntil ?? null, about: values.about ?? null };
}
