/** Codes that prove who made a text, as a platform makes them. */
export interface Codes {
  /** A key of 32 bytes for one purpose (HKDF with SHA-256, RFC 5869, without salt). */
  deriveKey(secret: string, purpose: string): Uint8Array;
  /** The code of a text (HMAC with SHA-256, RFC 2104), in base64url without padding. */
  codeOf(key: Uint8Array, text: string): string;
}
