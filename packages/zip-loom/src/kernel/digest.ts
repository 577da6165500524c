import { digestText, mix } from '../protocol/index.ts';

/**
 * Digests of markup: 48 bits that tell whether a region has changed. Not for secrets. The text is taken as UTF-8, four bytes
 * at a time, in four lanes that run side by side, because one alone would wait for its own multiplications; that makes a
 * digest a small part of rendering.
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
    for (let read = 0; read < text.length; ) {
      read += encode(text, read);
      for (let at = 0; at < wordCount; at += 4) {
        a = Math.imul(a ^ words[at]!, 0x01000193);
        b = Math.imul(b ^ words[at + 1]!, 0x85ebca6b);
        c = Math.imul(c ^ words[at + 2]!, 0xc2b2ae35);
        d = Math.imul(d ^ words[at + 3]!, 0x27d4eb2f);
        // A product moves bits upwards only; these bring them down again.
        a ^= d >>> 15;
        c ^= b >>> 13;
      }
    }
    this.length += text.length;
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
    return digestText(low, high);
  }
}

const encoder = new TextEncoder();

/** Long texts are taken in through this window, so that no page leaves memory after. A multiple of 16. */
const bytes = new Uint8Array(2 ** 14);
const words = new Uint32Array(bytes.buffer);
/** How many words of the window are in use. */
let wordCount = 0;

/** Fills the window with UTF-8, zeros after it up to a multiple of four words, and says how many code units it took. */
function encode(text: string, from: number): number {
  const { read, written } = encoder.encodeInto(from === 0 ? text : text.slice(from), bytes);
  const end = (written + 15) & ~15;
  bytes.fill(0, written, end);
  wordCount = end / 4;
  return read;
}
