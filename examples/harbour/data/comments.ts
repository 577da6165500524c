/** What skippers say about a berth, as a tree. */
import { asc, eq } from 'drizzle-orm';
import type { Comment } from '../model.ts';
import type { Database } from './database.ts';
import { comments } from './schema.ts';

/** The comments on a berth that answer nobody, each with its answers. */
export async function commentsOfBerth(database: Database, berthId: number): Promise<Comment[]> {
  const rows = await database.select().from(comments).where(eq(comments.berthId, berthId)).orderBy(asc(comments.at));
  const byId = new Map(
    rows.map(({ id, author, at, text }) => [id, { id, author, at, text, answers: [] as Comment[] }]),
  );
  const first: Comment[] = [];
  for (const { id, answers } of rows) (byId.get(answers ?? 0)?.answers ?? first).push(byId.get(id)!);
  return first;
}
