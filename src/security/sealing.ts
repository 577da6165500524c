/**
 * Keys and seals. One secret, one key for each purpose (HKDF, RFC 5869), so that what is sealed for one purpose means
 * nothing for another. Synchronous, because a page seals while it renders.
 */
import { hkdf } from '@noble/hashes/hkdf.js';
import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';

/** What a seal is for. */
type Purpose = 'token' | 'flash' | 'names';

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

/** 128 bits: no proof can be guessed, and pages stay small. */
const proofBytes = 16;

const encoder = new TextEncoder();

/**
 * A sealer of one or several secrets: the first seals, all of them open.
 * @param secrets at least 16 characters each
 */
export function createSealer(secrets: readonly string[]): Sealer {
  const keys = new Map<string, Uint8Array>();
  const keyFor = (secret: string, purpose: Purpose): Uint8Array => {
    const name = `${purpose} ${secret}`;
    let key = keys.get(name);
    if (!key) {
      key = hkdf(sha256, encoder.encode(secret), undefined, encoder.encode(`zip-loom ${purpose}`), 32);
      keys.set(name, key);
    }
    return key;
  };
  const proofOf = (secret: string, purpose: Purpose, text: string) =>
    toBase64URL(hmac(sha256, keyFor(secret, purpose), encoder.encode(text)).subarray(0, proofBytes));
  const verify = (purpose: Purpose, text: string, proof: string) =>
    secrets.some((secret) => sameText(proofOf(secret, purpose, text), proof));
  return {
    sign: (purpose, text) => proofOf(secrets[0]!, purpose, text),
    verify,
    seal(purpose, text) {
      const payload = toBase64URL(encoder.encode(text));
      return `${payload}.${proofOf(secrets[0]!, purpose, payload)}`;
    },
    open(purpose, sealed) {
      const dot = sealed.lastIndexOf('.');
      const payload = sealed.slice(0, Math.max(0, dot));
      if (dot < 0 || !verify(purpose, payload, sealed.slice(dot + 1))) return undefined;
      return fromBase64URL(payload);
    },
  };
}

/** Random bytes as text. */
export function randomText(bytes: number): string {
  return toBase64URL(crypto.getRandomValues(new Uint8Array(bytes)));
}

/** RFC 4648 §5, without padding. */
function toBase64URL(bytes: Uint8Array): string {
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replace(/=+$/, '');
}

function fromBase64URL(text: string): string | undefined {
  try {
    const bytes = Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (character) =>
      character.charCodeAt(0),
    );
    return new TextDecoder().decode(bytes);
  } catch {
    return undefined;
  }
}

/** Compares in a time that tells nothing of where two texts differ. */
function sameText(a: string, b: string): boolean {
  let difference = a.length ^ b.length;
  for (let index = 0; index < a.length; index++)
    difference |= a.charCodeAt(index) ^ b.charCodeAt(index % (b.length || 1));
  return difference === 0;
}
