/** A body of several parts (RFC 7578), one part after another. */
import type { BodyBytes } from '../../http/index.ts';
import type { Limits } from '../limits.ts';
import type { MessageCode } from '../messages/wording.ts';

export type Part =
  | { kind: 'text'; name: string; value: string }
  /** Its content has to be read to the end before the next part is asked for. */
  | { kind: 'file'; name: string; label: string; type: string; content: PartContent };

export interface PartContent {
  /** The next piece, or `undefined` at the end. */
  next(): Promise<Uint8Array | undefined>;
}

export interface Parts {
  /**
   * The next part, or `undefined` after the last.
   * @throws {BodyFault}
   */
  next(): Promise<Part | undefined>;
  /** Ends the reading. */
  end(): void;
}

/** Reads the parts of a body. */
export type PartsReader = (body: BodyBytes, contentType: string, limits: Limits) => Parts;

/** Why a body is read no further. */
export class BodyFault extends Error {
  readonly status: 400 | 408 | 413 | 415;
  readonly reason: MessageCode;
  readonly limit: number | undefined;

  constructor(status: BodyFault['status'], reason: MessageCode, limit?: number) {
    super(reason);
    this.status = status;
    this.reason = reason;
    this.limit = limit;
  }
}
