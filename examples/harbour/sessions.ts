/** Who is signed in: a random cookie, and the person after it in the database, so that any process knows. */
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Database } from './data/database.ts';
import { sessions } from './data/schema.ts';

const cookieName = 'harbour-session';

export interface Sessions {
  /** The signed-in person’s number. */
  personOf(request: Request): Promise<number | undefined>;
  /** The line for `Set-Cookie` that signs somebody in. */
  begin(person: number): Promise<string>;
  /** The line that signs the visitor of a request out. */
  end(request: Request): Promise<string>;
}

export function createSessions(database: Database): Sessions {
  const keyOf = (request: Request) =>
    new RegExp(`(?:^|; )${cookieName}=([\\w-]+)`).exec(request.headers.get('cookie') ?? '')?.[1];
  const line = (value: string, age: string) => `${cookieName}=${value}; Path=/; HttpOnly; SameSite=Lax${age}`;
  return {
    async personOf(request) {
      const key = keyOf(request);
      if (key === undefined) return undefined;
      const [found] = await database.select().from(sessions).where(eq(sessions.key, key));
      return found?.personId;
    },
    async begin(personId) {
      const key = randomUUID();
      await database.insert(sessions).values({ key, personId });
      return line(key, '');
    },
    async end(request) {
      await database.delete(sessions).where(eq(sessions.key, keyOf(request) ?? ''));
      return line('', '; Max-Age=0');
    },
  };
}
