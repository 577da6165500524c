/** JSON that is signed for one visitor, not hidden. The session is proved and not written: pages can be read by more than the cookie. */
import { fromBase64URL, toBase64URL } from './base64url.ts';
import { type Purpose, proofLength, type Sealer } from './sealing.ts';

const encoder = new TextEncoder();

export function signPayload(sealer: Sealer, purpose: Purpose, session: string, facts: readonly unknown[]): string {
  const payload = toBase64URL(encoder.encode(JSON.stringify(facts)));
  return `${payload}.${sealer.sign(purpose, startOf(session, payload))}${sealer.sign(purpose, `${session} ${payload}`)}`;
}

/** Long forgeries are refused by their length and their start: not all of them is hashed. */
function startOf(session: string, payload: string): string {
  return `start ${session} ${payload.length} ${payload.slice(0, 64)}`;
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
  const proofs = signed.slice(dot + 1);
  if (!sealer.verify(purpose, startOf(session, payload), proofs.slice(0, proofLength))) return undefined;
  if (!sealer.verify(purpose, `${session} ${payload}`, proofs.slice(proofLength))) return undefined;
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
