/** Who may sign in. Everybody here is made up. */
import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { people } from './schema.ts';

export interface Person {
  id: number;
  name: string;
  email: string;
  /** Works in the harbour office. */
  isStaff: boolean;
}

/** Everybody’s password on the demo day. */
export const demoPassword = 'low-water';

/** The salt and the key that scrypt (RFC 7914) makes of a password. */
export function hashPassword(password: string, salt: string = randomBytes(16).toString('hex')): string {
  return `${salt}:${scryptSync(password, salt, 32).toString('hex')}`;
}

export async function findPerson(database: Database, id: number): Promise<Person | undefined> {
  const [found] = await database
    .select({ id: people.id, name: people.name, email: people.email, isStaff: people.isStaff })
    .from(people)
    .where(eq(people.id, id));
  return found;
}

/** The person whose URL and password these are. */
export async function signIn(database: Database, email: string, password: string): Promise<Person | undefined> {
  const [found] = await database.select().from(people).where(eq(people.email, email.toLowerCase()));
  // An unknown URL takes as long as a known one.
  const isRight = matches(password, found?.password ?? hashPassword(''));
  return found && isRight ? { id: found.id, name: found.name, email: found.email, isStaff: found.isStaff } : undefined;
}

export async function isPassword(database: Database, id: number, password: string): Promise<boolean> {
  const [found] = await database.select({ password: people.password }).from(people).where(eq(people.id, id));
  return found !== undefined && matches(password, found.password);
}

export async function changeDetails(
  database: Database,
  id: number,
  details: { name: string; email: string },
): Promise<void> {
  await database
    .update(people)
    .set({ name: details.name, email: details.email.toLowerCase() })
    .where(eq(people.id, id));
}

export async function changePassword(database: Database, id: number, password: string): Promise<void> {
  await database
    .update(people)
    .set({ password: hashPassword(password) })
    .where(eq(people.id, id));
}

function matches(password: string, stored: string): boolean {
  const [salt = ''] = stored.split(':');
  return timingSafeEqual(Buffer.from(hashPassword(password, salt)), Buffer.from(stored));
}
