/** Codes wherever the library runs: at once, unlike those of the Web Cryptography standard, because a page seals while it renders. */
import { hkdf } from '@noble/hashes/hkdf.js';
import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { toBase64URL } from './base64url.ts';
import type { Codes } from './codes.ts';

const encoder = new TextEncoder();

export const portableCodes: Codes = {
  deriveKey: (secret, purpose) => hkdf(sha256, encoder.encode(secret), undefined, encoder.encode(purpose), 32),
  codeOf: (key, text) => toBase64URL(hmac(sha256, key, encoder.encode(text))),
};
