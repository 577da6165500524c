/**
 * Digests of markup: 48 bits that tell whether a region has changed. Not for secrets. Four lanes of multiply and rotate run
 * side by side, because one alone would wait for its own multiplications; that makes a digest a small part of rendering.
 */
export class Digest {
  private a = 0x9e3779b1;
  private b = 0x85ebca77;
  private c = 0xc2b2ae3d;
  private d = 0x27d4eb2f;
  private length = 0;

  /** Takes in text; how it is cut into pieces counts. */
  add(text: string): void {
    let { a, b, c, d } = this;
    const { length } = text;
    const whole = length - (length % 4);
    let at = 0;
    for (; at < whole; at += 4) {
      a = Math.imul(a ^ text.charCodeAt(at), 0x01000193);
      b = Math.imul(b ^ text.charCodeAt(at + 1), 0x85ebca6b);
      c = Math.imul(c ^ text.charCodeAt(at + 2), 0xc2b2ae35);
      d = Math.imul(d ^ text.charCodeAt(at + 3), 0x27d4eb2f);
    }
    for (; at < length; at++) a = Math.imul(a ^ text.charCodeAt(at), 0x01000193);
    this.length += length;
    // Each piece turns the lanes, so that texts cannot trade places unnoticed.
    this.a = mix(a ^ (d >>> 15));
    this.b = mix(b ^ (a >>> 13));
    this.c = mix(c ^ (b >>> 16));
    this.d = mix(d ^ (c >>> 11));
  }

  /** Eight characters of base64url. */
  text(): string {
    const low = mix(this.a ^ mix(this.c + this.length)) >>> 0;
    const high = mix(this.b ^ mix(this.d ^ low)) >>> 0;
    let text = '';
    for (let bits = 0; bits < 30; bits += 6) text += alphabet[(low >>> bits) & 63];
    for (let bits = 0; bits < 18; bits += 6) text += alphabet[(high >>> bits) & 63];
    return text;
  }
}

const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';

/** A finalizer that lets every bit reach every other. */
function mix(value: number): number {
  let mixed = Math.imul(value ^ (value >>> 16), 0x7feb352d);
  mixed = Math.imul(mixed ^ (mixed >>> 15), 0x846ca68b);
  return mixed ^ (mixed >>> 16);
}
