/** Who watches which berth. */
import { and, count, eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { watches } from './schema.ts';

/** Whether a person watches a berth, and how many people do. */
export async function watchOf(
  database: Database,
  berthId: number,
  personId: number | undefined,
): Promise<{ watched: boolean; watchers: number }> {
  const [counted] = await database.select({ watchers: count() }).from(watches).where(eq(watches.berthId, berthId));
  const own = personId === undefined ? [] : await database.select().from(watches).where(mine(berthId, personId));
  return { watched: own.length > 0, watchers: counted?.watchers ?? 0 };
}

export async function watch(database: Database, berthId: number, personId: number): Promise<void> {
  await database.insert(watches).values({ berthId, personId }).onConflictDoNothing();
}

export async function unwatch(database: Database, berthId: number, personId: number): Promise<void> {
  await database.delete(watches).where(mine(berthId, personId));
}

function mine(berthId: number, personId: number) {
  return and(eq(watches.berthId, berthId), eq(watches.personId, personId));
}
