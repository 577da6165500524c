/** HMAC with SHA-256 (RFC 2104), and keys by HKDF (RFC 5869): the platform’s own where it has them at once, as Node does. */
import { hkdf } from '@noble/hashes/hkdf.js';
import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { toBase64URL } from './base64url.ts';

const encoder = new TextEncoder();

/** A key for one purpose, from a secret. */
export function deriveKey(secret: string, purpose: string): Uint8Array {
  return hkdf(sha256, encoder.encode(secret), undefined, encoder.encode(`zip-loom ${purpose}`), 32);
}

/** The code of a text, in base64url. */
export const hmacText: (key: Uint8Array, text: string) => string = platformHMAC() ?? portableHMAC;

function portableHMAC(key: Uint8Array, text: string): string {
  return toBase64URL(hmac(sha256, key, encoder.encode(text)));
}

/** What there is of Node’s modules wherever they can be asked for without an import, so that browsers need not know of them. */
interface Platform {
  process?: { getBuiltinModule?(name: 'node:crypto'): Partial<typeof import('node:crypto')> | undefined };
}

function platformHMAC(): typeof portableHMAC | undefined {
  const createHmac = (globalThis as Platform).process?.getBuiltinModule?.('node:crypto')?.createHmac;
  return createHmac && ((key, text) => createHmac('sha256', key).update(text).digest('base64url'));
}
