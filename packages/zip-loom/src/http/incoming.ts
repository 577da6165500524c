/**
 * A request as the library reads it. Each kind of server has a thin adapter that gives this much, and makes nothing else unless
 * somebody asks for it.
 */
import type { Reply } from './reply.ts';

export interface IncomingRequest {
  /** As the request has it, in upper case for the methods of the standard. */
  readonly method: string;
  /** Absolute, without fragment, as the URL standard writes it. */
  readonly url: string;
  /** The origin of the URL. */
  readonly origin: string;
  /** What the server gives to the context of the request. */
  readonly server: ServerObjects;
  /** The same request for code that is written for the Fetch standard. */
  readonly request: Request;
  /** A header by its name in lower case; several of one name are joined by commas, cookies by semicolons. */
  header(name: string): string | undefined;
  /** The whole body as text in UTF-8; bytes that are none become U+FFFD. Never rejects. */
  readText(limits: BodyLimits): Promise<BodyText>;
  /** The body as it arrives, for whoever reads all of it and ends the reading; `undefined` where it was read by others. */
  readBytes(): BodyBytes | undefined;
  /** The same request, to look into its body and leave it to others; `undefined` where that was read by others before. */
  copy(): IncomingRequest | undefined;
  /** Lets go of a body that nobody has read. */
  letGo(): Promise<void>;
  /** An answer for code that is written for the Fetch standard. */
  responseOf(reply: Reply): Response;
  /** Calls back when the reader has gone before the answer was sent. */
  onLeave(leave: () => void): void;
  /** Ends something when the answer has been sent, where the server tells. */
  atEnd(ending: Ending): void;
  /** Ends something when the answer has been made, where no server tells more. */
  onceAnswered(ending: Ending): void;
}

/** What a server has besides the request: under Node `req` and `res`, elsewhere what the caller gives. */
export interface ServerObjects {
  readonly [name: string]: unknown;
}

/** How much of a body is read. */
export interface BodyLimits {
  /** Bytes. */
  body: number;
  /** Milliseconds between two pieces. */
  pause: number;
  /** Milliseconds for all of it. */
  duration: number;
}

/** The text of a body, or why there is none: too much of it, too late, cut off, or read by others before. */
export type BodyText = { ok: true; text: string } | { ok: false; reason: 'too-large' | 'late' | 'cut-off' | 'used' };

/** What is to be let go of. */
export interface Ending {
  end(): Promise<void>;
}

/** A body piece by piece, at the pace of whoever reads. It rejects where the body is cut off. */
export interface BodyBytes {
  /** The next piece, or `undefined` at the end. */
  next(): Promise<Uint8Array | undefined>;
  /** Throws away what is left. */
  end(): void;
}

/** Where adapters leave the request that stands behind a Fetch `Request`. */
export const incomingKey: unique symbol = Symbol('zip-loom incoming');

/** The origin of an absolute `http` or `https` URL that is normal. */
export function originOf(url: string): string {
  const end = url.indexOf('/', url.indexOf('//') + 2);
  return end === -1 ? url : url.slice(0, end);
}
