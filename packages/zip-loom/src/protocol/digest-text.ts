/** Digests as text: 48 bits in eight characters of base64url. */

const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';

/** The lower 30 bits of one number and the lower 18 of another. */
export function digestText(low: number, high: number): string {
  let text = '';
  for (let bits = 0; bits < 30; bits += 6) text += alphabet[(low >>> bits) & 63];
  for (let bits = 0; bits < 18; bits += 6) text += alphabet[(high >>> bits) & 63];
  return text;
}

/** A finalizer that lets every bit reach every other. */
export function mix(value: number): number {
  let mixed = Math.imul(value ^ (value >>> 16), 0x7feb352d);
  mixed = Math.imul(mixed ^ (mixed >>> 15), 0x846ca68b);
  return mixed ^ (mixed >>> 16);
}
