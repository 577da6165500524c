/**
 * Keys and seals. One secret, one key for each purpose (HKDF, RFC 5869), so that what is sealed for one purpose means
 * nothing for another. Synchronous, because a page seals while it renders.
 */
import { fromBase64URL, toBase64URL } from './base64url.ts';
import type { Codes } from './codes.ts';

/** What a seal is for. */
export type Purpose = 'session' | 'token' | 'flash' | 'names' | 'state' | 'receipt';

/** Seals texts and opens them again. */
export interface Sealer {
  /** The text with its seal after a dot, in base64url. */
  seal(purpose: Purpose, text: string): string;
  /** The text of a seal that holds under any of the secrets, else `undefined`. */
  open(purpose: Purpose, sealed: string): string | undefined;
  /** A short proof that the text is ours, without the text. */
  sign(purpose: Purpose, text: string): string;
  /** Whether a proof is ours, under any of the secrets. */
  verify(purpose: Purpose, text: string, proof: string): boolean;
}

/** In base64url, 132 bits: no proof can be guessed, and pages stay small. */
export const proofLength = 22;

/**
 * So many proofs of each purpose are kept: the proof of a token is the same whenever a visitor looks at a page, and a list of names
 * that comes back was mostly sealed here not long ago.
 */
const mostProofs = 2000;

/** Purposes whose proofs are the same again and again. */
function isKept(purpose: Purpose): purpose is 'session' | 'token' | 'names' {
  return purpose === 'session' || purpose === 'token' || purpose === 'names';
}

const encoder = new TextEncoder();

/**
 * A sealer of one or several secrets: the first seals, all of them open.
 * @param secrets at least 16 characters each
 */
export function createSealer(secrets: readonly string[], codes: Codes): Sealer {
  const keys = new Map<string, Uint8Array>();
  const keyFor = (secret: string, purpose: Purpose): Uint8Array => {
    const name = `${purpose} ${secret}`;
    const key = keys.get(name) ?? codes.deriveKey(secret, `zip-loom ${purpose}`);
    keys.set(name, key);
    return key;
  };
  const proofOf = (secret: string, purpose: Purpose, text: string) =>
    codes.codeOf(keyFor(secret, purpose), text).slice(0, proofLength);
  const kept = {
    session: new Map<string, string>(),
    token: new Map<string, string>(),
    names: new Map<string, string>(),
  };
  const sign = (purpose: Purpose, text: string): string => {
    if (!isKept(purpose)) return proofOf(secrets[0]!, purpose, text);
    const proofs = kept[purpose];
    let proof = proofs.get(text);
    if (proof === undefined) {
      proof = proofOf(secrets[0]!, purpose, text);
      if (proofs.size >= mostProofs) proofs.delete(proofs.keys().next().value!);
      proofs.set(text, proof);
    }
    return proof;
  };
  const verify = (purpose: Purpose, text: string, proof: string) => {
    // What a sender writes is looked up, but never kept: it may be anything, and long.
    const known = isKept(purpose) ? kept[purpose].get(text) : undefined;
    if (known !== undefined && sameText(known, proof)) return true;
    return secrets.some((secret) => sameText(proofOf(secret, purpose, text), proof));
  };
  return {
    sign,
    verify,
    seal(purpose, text) {
      const payload = toBase64URL(encoder.encode(text));
      return `${payload}.${sign(purpose, payload)}`;
    },
    open(purpose, sealed) {
      const dot = sealed.lastIndexOf('.');
      const payload = sealed.slice(0, Math.max(0, dot));
      if (dot < 0 || !verify(purpose, payload, sealed.slice(dot + 1))) return undefined;
      return fromBase64URL(payload);
    },
  };
}

/** Compares in a time that tells nothing of where two texts differ. */
function sameText(a: string, b: string): boolean {
  let difference = a.length ^ b.length;
  for (let index = 0; index < a.length; index++)
    difference |= a.charCodeAt(index) ^ b.charCodeAt(index % (b.length || 1));
  return difference === 0;
}
