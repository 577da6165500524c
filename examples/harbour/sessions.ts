/** Who is signed in: a random cookie, and the person after it in memory. */
import { randomUUID } from 'node:crypto';

const cookieName = 'harbour-session';

export interface Sessions {
  /** The signed-in person’s number. */
  personOf(request: Request): number | undefined;
  /** The line for `Set-Cookie` that signs somebody in. */
  begin(person: number): string;
  /** The line that signs the visitor of a request out. */
  end(request: Request): string;
}

export function createSessions(): Sessions {
  const people = new Map<string, number>();
  const keyOf = (request: Request) =>
    new RegExp(`(?:^|; )${cookieName}=([\\w-]+)`).exec(request.headers.get('cookie') ?? '')?.[1];
  const line = (value: string, age: string) => `${cookieName}=${value}; Path=/; HttpOnly; SameSite=Lax${age}`;
  return {
    personOf: (request) => people.get(keyOf(request) ?? ''),
    begin(person) {
      const key = randomUUID();
      people.set(key, person);
      return line(key, '');
    },
    end(request) {
      people.delete(keyOf(request) ?? '');
      return line('', '; Max-Age=0');
    },
  };
}
