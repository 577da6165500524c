/** Random text, and texts that hide others. */

/** RFC 4648 §5. */
const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';

/** Asking the platform costs much more than the bytes that it gives: some are kept in store. */
const pool = new Uint8Array(4096);
let used = pool.length;

/** Random text of so many bytes, in base64url. */
export function randomText(bytes: number): string {
  const length = Math.ceil((bytes * 8) / 6);
  if (used + length > pool.length) {
    crypto.getRandomValues(pool);
    used = 0;
  }
  let text = '';
  for (const end = used + length; used < end; used++) {
    text += alphabet[pool[used]! & 63];
    // Nobody can find in memory what was given away.
    pool[used] = 0;
  }
  return text;
}

/** Character code → place in the alphabet; 64 for what is not in it. */
const places = new Uint8Array(128).fill(64);
for (let place = 0; place < alphabet.length; place++) places[alphabet.charCodeAt(place)] = place;

/**
 * One text of base64url over another of the same length, which gives it back when it is done again: a text that is on many pages is
 * another on each, so that nothing can be learned from the sizes of compressed pages (BREACH).
 * @returns `undefined` for texts that are not in base64url
 */
export function masked(text: string, mask: string): string | undefined {
  let out = '';
  for (let at = 0; at < mask.length; at++) {
    const one = places[text.charCodeAt(at)] ?? 64;
    const other = places[mask.charCodeAt(at)] ?? 64;
    if ((one | other) >= 64) return undefined;
    out += alphabet[one ^ other];
  }
  return out;
}
