/** Questions about berths. */
import { and, asc, count, desc, eq, gt, gte, like, lte, notExists, type SQL } from 'drizzle-orm';
import type { Berth, BerthSearch, Stay } from '../model.ts';
import type { Database } from './database.ts';
import { berths, boats, stays } from './schema.ts';

/** How many berths a page shows. */
const berthsPerPage = 12;

export interface BerthPage {
  berths: Berth[];
  /** Of all pages together. */
  total: number;
  page: number;
  pages: number;
}

/** One page of the berths that match. A page beyond the last is the last. */
export async function searchBerths(database: Database, search: BerthSearch, today: string): Promise<BerthPage> {
  const taken = database
    .select()
    .from(stays)
    .where(
      and(eq(stays.berthId, berths.id), eq(stays.status, 'accepted'), lte(stays.from, today), gt(stays.until, today)),
    );
  const conditions: Array<SQL | undefined> = [
    search.q ? like(berths.name, `%${search.q}%`) : undefined,
    search.length ? gte(berths.length, search.length) : undefined,
    search.free ? notExists(taken) : undefined,
  ];
  const matching = and(...conditions);
  const [counted] = await database.select({ total: count() }).from(berths).where(matching);
  const total = counted?.total ?? 0;
  const pages = Math.max(1, Math.ceil(total / berthsPerPage));
  const page = Math.min(Math.max(1, search.page), pages);
  const rows = await database
    .select()
    .from(berths)
    .where(matching)
    .orderBy(asc(berths.id))
    .limit(berthsPerPage)
    .offset((page - 1) * berthsPerPage);
  return { berths: await withOccupation(database, rows, today), total, page, pages };
}

export async function findBerth(database: Database, id: number, today: string): Promise<Berth | undefined> {
  const rows = await database.select().from(berths).where(eq(berths.id, id));
  return (await withOccupation(database, rows, today))[0];
}

/** The berths of a pontoon, to choose from. */
export async function berthsOfPontoon(
  database: Database,
  pontoon: string,
): Promise<Array<{ value: number; label: string; group: string }>> {
  const rows = await database
    .select()
    .from(berths)
    .where(eq(berths.pontoon, pontoon))
    .orderBy(desc(berths.power), asc(berths.id));
  return rows.map(({ id, name, length, power }) => ({
    value: id,
    label: `${name}, ${length} m`,
    group: power ? 'With power' : 'Without power',
  }));
}

/** The stays of one berth that have not ended, the next first. */
export async function staysOfBerth(database: Database, id: number, today: string): Promise<Stay[]> {
  return database
    .select({ id: stays.id, boat: boats.name, from: stays.from, until: stays.until, status: stays.status })
    .from(stays)
    .innerJoin(boats, eq(boats.id, stays.boatId))
    .where(and(eq(stays.berthId, id), gt(stays.until, today)))
    .orderBy(asc(stays.from));
}

async function withOccupation(
  database: Database,
  rows: Array<typeof berths.$inferSelect>,
  today: string,
): Promise<Berth[]> {
  const present = await database
    .select({ berthId: stays.berthId, until: stays.until })
    .from(stays)
    .where(and(eq(stays.status, 'accepted'), lte(stays.from, today), gt(stays.until, today)));
  const until = new Map(present.map((stay) => [stay.berthId, stay.until]));
  return rows.map((row) => ({ ...row, free: !until.has(row.id), freeFrom: until.get(row.id) }));
}
