/** Text of TypeScript that is written from a template, and where in the template its pieces come from. */
import type { Span } from 'zip-loom/internal/diagnostics';

/** What a piece is about: the words of a message depend on it. */
export type Subject =
  | { kind: 'expression' }
  /** A value that is printed: in text, or beside other text in an attribute. */
  | { kind: 'printed' }
  /** What is repeated. */
  | { kind: 'items' }
  /** An argument, by the name that the template takes, of a call. */
  | { kind: 'argument'; name: string; call: string; declaration: string }
  /** All arguments of a call. */
  | { kind: 'arguments'; call: string; declaration: string }
  /** The name of a field of a form. */
  | { kind: 'field'; form: string }
  /** What a slot gives to what fills it. */
  | { kind: 'given'; name: string; slot: string }
  /** Sample data. */
  | { kind: 'sample' }
  | { kind: 'type' }
  | { kind: 'import' };

/** A piece of the text, from its first character to before its last, and the place that it stands for. */
export interface Piece {
  start: number;
  end: number;
  place: Span;
  subject: Subject;
  /** Whether it is the very text of the template, so that each character has its own place. */
  isSame: boolean;
}

/** The smallest piece around an offset. */
export function pieceAt(pieces: readonly Piece[], offset: number): Piece | undefined {
  let best: Piece | undefined;
  for (const piece of pieces) {
    if (offset < piece.start || offset >= piece.end) continue;
    if (!best || piece.end - piece.start < best.end - best.start) best = piece;
  }
  return best;
}

/**
 * Where TypeScript is asked about an offset of a template: in the very text that stands there, of which the end belongs to it, or in the
 * name of a form’s field. `undefined` where neither was written.
 */
export function offsetOf(pieces: readonly Piece[], offset: number): number | undefined {
  const around = pieces.filter(({ place }) => offset >= place.start && offset <= place.end);
  const same = around.find(({ isSame }) => isSame);
  if (same) return same.start + offset - same.place.start;
  const field = around.find(({ subject }) => subject.kind === 'field');
  return field && field.start + 1;
}

/** What a stretch of the text stands for in the template; `undefined` for what stands for nothing. */
export function placeOf(pieces: readonly Piece[], { start, end }: Span): Span | undefined {
  const piece = pieceAt(pieces, start);
  if (!piece) return undefined;
  if (!piece.isSame) return piece.place;
  const from = piece.place.start + start - piece.start;
  return { start: from, end: from + end - start };
}

export class MappedText {
  private text = '';
  readonly pieces: Piece[] = [];

  /** Text that stands for nothing. */
  write(text: string): void {
    this.text += text;
  }

  /** Text that stands for a place. */
  mapped(text: string, place: Span, subject: Subject, isSame = false): void {
    const start = this.text.length;
    this.text += text;
    this.pieces.push({ start, end: this.text.length, place, subject, isSame });
  }

  /** The text of the template as it is. */
  same(code: string, place: Span, subject: Subject = { kind: 'expression' }): void {
    this.mapped(code, place, subject, true);
  }

  /** Another text after this one. */
  append(other: MappedText): void {
    const start = this.text.length;
    this.text += other.text;
    for (const piece of other.pieces)
      this.pieces.push({ ...piece, start: piece.start + start, end: piece.end + start });
  }

  toString(): string {
    return this.text;
  }
}
