/** JSON that is signed for one visitor, not hidden. The session is proved and not written: pages can be read by more than the cookie. */
import { fromBase64URL, toBase64URL } from './base64url.ts';
import type { Purpose, Sealer } from './sealing.ts';

const encoder = new TextEncoder();

export function signPayload(sealer: Sealer, purpose: Purpose, session: string, facts: readonly unknown[]): string {
  const payload = toBase64URL(encoder.encode(JSON.stringify(facts)));
  return `${payload}.${sealer.sign(purpose, `${session} ${payload}`)}`;
}

/** What was signed; `undefined` for what is not ours or not this visitor’s. */
export function openPayload(
  sealer: Sealer,
  purpose: Purpose,
  session: string,
  signed: string,
): readonly unknown[] | undefined {
  const dot = signed.lastIndexOf('.');
  const payload = signed.slice(0, Math.max(0, dot));
  if (!sealer.verify(purpose, `${session} ${payload}`, signed.slice(dot + 1))) return undefined;
  return factsOf(payload);
}

/** What such a text says, whether or not it is ours; nothing of it may be believed. */
export function unprovedPayload(signed: string): readonly unknown[] {
  try {
    const facts: unknown = factsOf(signed.slice(0, Math.max(0, signed.lastIndexOf('.'))));
    return Array.isArray(facts) ? facts : [];
  } catch {
    return [];
  }
}

function factsOf(payload: string): readonly unknown[] {
  return JSON.parse(fromBase64URL(payload) ?? '[]') as unknown[];
}
