/** What skippers say about a berth, as a tree. */
import { and, asc, eq } from 'drizzle-orm';
import type { Comment } from '../model.ts';
import type { Database } from './database.ts';
import type { KeptFile } from './files.ts';
import { comments } from './schema.ts';

/** The comments on a berth that answer nobody, each with its answers. */
export async function commentsOfBerth(database: Database, berthId: number): Promise<Comment[]> {
  const rows = await database.select().from(comments).where(eq(comments.berthId, berthId)).orderBy(asc(comments.at));
  const byId = new Map(
    rows.map(({ id, author, at, text, picture }) => [
      id,
      { id, author, at, text, hasPicture: picture !== null, answers: [] as Comment[] },
    ]),
  );
  const first: Comment[] = [];
  for (const { id, answers } of rows) (byId.get(answers ?? 0)?.answers ?? first).push(byId.get(id)!);
  return first;
}

/** Adds a comment that answers nobody. */
export async function addComment(
  database: Database,
  comment: { berthId: number; author: string; at: string; text: string; picture: KeptFile | null },
): Promise<void> {
  await database.insert(comments).values({ ...comment, answers: null });
}

/** The picture of a comment on a berth. */
export async function pictureOf(database: Database, berthId: number, id: number): Promise<KeptFile | null | undefined> {
  const [found] = await database
    .select({ picture: comments.picture })
    .from(comments)
    .where(and(eq(comments.berthId, berthId), eq(comments.id, id)));
  return found?.picture;
}
