/**
 * What a page consists of while it is written: text in order, and between it parts that are filled later. Synchronous code
 * never waits: a part that waits leaves a pending segment, and the code goes on after it; whoever reads the page waits.
 */
import { Digest } from './digest.ts';
import { nextTask } from './tasks.ts';

export type Piece = string | RegionNode | PendingSegment | Rows | Mark | Secret;

/** A stretch of the page. */
export interface Segment {
  pieces: Piece[];
  /** Of the text that counts; missing where nobody asks, or where there can be none. */
  digest: Digest | undefined;
}

/** One region of a page; the page itself is the outermost. */
export interface RegionNode extends Segment {
  kind: 'region';
  name: string;
  /** The element’s name, for the stub that may be in its place. */
  tag: string;
  /** Whether it read messages that wait to be shown. */
  showsFlash: boolean;
  parent: RegionNode | undefined;
  /** The segment that it is in. */
  outer: Segment | undefined;
}

/** A part of the page that waits for values. */
export interface PendingSegment extends Segment {
  kind: 'pending';
  state: PendingState;
  /** What takes its place when the page goes on without it. */
  meanwhile: Segment | undefined;
  /** The content is SVG or MathML, and needs an element of that name around it to be read as such. */
  wrapper: string | undefined;
}

/** `until` never rejects. */
type PendingState =
  | { kind: 'waiting'; until: Promise<void> }
  | { kind: 'filled' }
  | { kind: 'failed'; failure: Failure };

/** A list whose items come one by one; its pieces are those of the items that came and have not been read. */
export interface Rows extends Segment {
  kind: 'rows';
  state: { kind: 'coming' } | { kind: 'done' } | { kind: 'failed'; failure: Failure };
  /** Writes the next item, or the end. Never rejects. */
  next(): Promise<void>;
  /** Tells the source that nobody reads on. */
  stop(): void;
}

/** A place that matters to whoever reads the page: the beginning and the end of `<body>`. */
type Mark = { kind: 'body-start' } | { kind: 'body-end' };

/** Text that is decided when the page is read, and does not count. */
interface Secret {
  kind: 'secret';
  text(): string;
}

/** An error in a part of the page. */
export interface Failure {
  error: unknown;
  /** Made when the part began to wait: its stack tells the calls. */
  origin: Error;
}

/** An empty stretch. */
export function newSegment(counts: boolean): Segment {
  return { pieces: [], digest: counts ? new Digest() : undefined };
}

function isSegment(piece: Piece): piece is RegionNode | PendingSegment | Rows {
  return typeof piece !== 'string' && 'pieces' in piece;
}

/** The regions that are directly in a segment, without those inside them. */
export function innerRegions(segment: Segment): RegionNode[] {
  return segment.pieces.flatMap((piece): RegionNode[] => {
    if (typeof piece === 'string') return [];
    switch (piece.kind) {
      case 'region':
        return [piece];
      case 'pending':
      case 'rows':
        return innerRegions(piece);
      default:
        return [];
    }
  });
}

/**
 * The text of a segment that waits for nothing any more.
 * @param region what stands for an inner region, where that is not its whole text
 * @param atEnd asked for what is before the end of `<body>`
 */
export function segmentText(
  segment: Segment,
  region: (inner: RegionNode) => string | undefined = () => undefined,
  atEnd: () => string = () => '',
): string {
  let text = '';
  for (const piece of segment.pieces) {
    if (typeof piece === 'string') text += piece;
    else if (piece.kind === 'body-end') text += atEnd();
    else if (piece.kind === 'secret') text += piece.text();
    else if (piece.kind === 'region') text += region(piece) ?? segmentText(piece, region, atEnd);
    else if (isSegment(piece)) text += segmentText(piece, region, atEnd);
  }
  return text;
}

/** The digest of a segment with the parts of it that were filled later; `undefined` where it can have none. */
export function digestOf(segment: Segment): string | undefined {
  if (!segment.digest) return undefined;
  const inner: string[] = [];
  for (const piece of segment.pieces) {
    if (typeof piece === 'string' || (piece.kind !== 'pending' && piece.kind !== 'rows')) continue;
    const digest = piece.state.kind === 'failed' ? undefined : digestOf(piece);
    if (digest === undefined) return undefined;
    inner.push(digest);
  }
  if (inner.length === 0) return segment.digest.text();
  const whole = new Digest();
  whole.add([segment.digest.text(), ...inner].join(' '));
  return whole.text();
}

/** The first failure among the parts that were filled later, in the order of the page. */
export function firstFailure(segment: Segment): Failure | undefined {
  for (const piece of segment.pieces) {
    if (!isSegment(piece)) continue;
    const failure = failureOf(piece) ?? firstFailure(piece);
    if (failure) return failure;
  }
  return undefined;
}

function failureOf(piece: RegionNode | PendingSegment | Rows): Failure | undefined {
  return piece.kind !== 'region' && piece.state.kind === 'failed' ? piece.state.failure : undefined;
}

/** What has to be waited for before a pending segment is filled or failed. */
export function arrivalOf({ state }: PendingSegment): Promise<void> | undefined {
  return state.kind === 'waiting' ? state.until : undefined;
}

/** Whether anything in a segment is still to come. */
export function isWaiting(segment: Segment): boolean {
  return segment.pieces.some((piece) => {
    if (typeof piece === 'string') return false;
    if (piece.kind === 'pending') return piece.state.kind === 'waiting' || isWaiting(piece);
    if (piece.kind === 'rows') return piece.state.kind === 'coming' || isWaiting(piece);
    return piece.kind === 'region' && isWaiting(piece);
  });
}

/** After so many items of a list that are there at once, others have their turn. */
const rowsATurn = 64;

/**
 * Waits until a segment is whole: everything in it has come.
 * @param isEnough ends the waiting earlier
 */
export async function whole(segment: Segment, isEnough: () => boolean = () => false): Promise<void> {
  for (let at = 0; at < segment.pieces.length && !isEnough(); at++) {
    const piece = segment.pieces[at]!;
    if (!isSegment(piece)) continue;
    if (piece.kind === 'pending') {
      if (piece.state.kind === 'waiting') await piece.state.until;
    } else if (piece.kind === 'rows') {
      for (let count = 1; piece.state.kind === 'coming' && !isEnough(); count++) {
        await piece.next();
        if (count % rowsATurn === 0) await nextTask();
      }
    }
    // Most parts hold nothing but text.
    if (piece.pieces.some((inner) => typeof inner !== 'string')) await whole(piece, isEnough);
  }
}

/** Stops every list in a segment whose items come one by one. */
export function stopRows(segment: Segment): void {
  for (const piece of segment.pieces) {
    if (!isSegment(piece)) continue;
    if (piece.kind === 'rows') piece.stop();
    stopRows(piece);
  }
}
