/** Reads a page in order while parts of it are still to come: at the pace of whoever reads. */

import { lateAttribute, wrappedAttribute } from '../protocol/index.ts';
import {
  arrivalOf,
  type Failure,
  isWaiting,
  type PendingSegment,
  type Piece,
  type Segment,
  whole,
} from './segments.ts';

export interface ReadingSettings {
  /** Marks late content as this page’s own; unknown to visitors. */
  mark: string;
  /** What is at the end of `<body>`, after content that came late. */
  atEnd(): string;
  /** What is in place of a part that failed. */
  onFailure(failure: Failure): string;
}

/** What could be read at once. */
export interface Reading {
  text: string;
  /** What the page has to wait for before there is more; missing at its end. */
  waiting: Promise<unknown> | undefined;
  isDone: boolean;
}

/** A stretch that is being read, and how far. */
interface Position {
  pieces: Piece[];
  at: number;
  /** How much of the text at hand has been read, in UTF-16 code units. */
  read: number;
}

export class PageReader {
  private readonly settings: ReadingSettings;
  /** From the page inwards to what is being read. */
  private readonly open: Position[];
  /** Content whose placeholder was read, in the order in which it came to be whole. */
  private readonly arrived: Array<{ pending: PendingSegment; id: string }> = [];
  private late = 0;
  /** How many late parts are still on their way. */
  private expected = 0;
  private wake: (() => void) | undefined;
  private hasEnded = false;

  constructor(page: Segment, settings: ReadingSettings) {
    this.settings = settings;
    this.open = [begin(page.pieces)];
  }

  /**
   * Reads on until there is enough, something has to be waited for, or the page ends.
   * @param enough in UTF-16 code units
   */
  read(enough: number): Reading {
    let text = '';
    for (;;) {
      if (text.length >= enough) return { text, waiting: undefined, isDone: false };
      const position = this.open.at(-1);
      if (!position) {
        const rest = this.hasEnded ? undefined : this.end();
        if (rest === undefined) return { text, waiting: undefined, isDone: true };
        if (typeof rest !== 'string') return { text, waiting: rest, isDone: false };
        text += rest;
        continue;
      }
      const piece = position.pieces[position.at];
      if (piece === undefined) this.open.pop();
      else if (typeof piece === 'string') {
        text += readText(piece, position, enough - text.length);
      } else {
        const read = this.readPiece(piece, position);
        if (typeof read !== 'string') return { text, waiting: read, isDone: false };
        text += read;
      }
    }
  }

  /** Text, or a promise to wait for before the same piece is read again. */
  private readPiece(piece: Exclude<Piece, string>, position: Position): string | Promise<unknown> {
    switch (piece.kind) {
      case 'body-start':
        position.at++;
        return '';
      case 'secret':
        position.at++;
        return piece.text();
      case 'body-end': {
        const rest = this.end();
        if (typeof rest !== 'string') return rest;
        // What came late is read first; the mark itself is passed when nothing more comes.
        if (this.hasEnded) position.at++;
        return rest;
      }
      case 'region':
        position.at++;
        this.open.push(begin(piece.pieces));
        return '';
      case 'rows': {
        if (piece.pieces.length > 0) {
          // Items that were read are forgotten, so that a long list takes no memory.
          this.open.push(begin(piece.pieces.splice(0)));
          return '';
        }
        if (piece.state.kind === 'coming') return piece.next();
        position.at++;
        return piece.state.kind === 'failed' ? this.settings.onFailure(piece.state.failure) : '';
      }
      case 'pending':
        return this.readPending(piece, position);
    }
  }

  private readPending(pending: PendingSegment, position: Position): string | Promise<unknown> {
    const { state, meanwhile } = pending;
    if (meanwhile && (state.kind === 'waiting' || isWaiting(pending))) {
      position.at++;
      const id = `${this.settings.mark}-${++this.late}`;
      this.expect(pending, id);
      this.open.push(begin([`<!--late ${id}-->`, ...meanwhile.pieces, `<!--/late ${id}-->`]));
      return '';
    }
    if (state.kind === 'waiting') return state.until;
    position.at++;
    if (state.kind === 'failed') return this.settings.onFailure(state.failure);
    this.open.push(begin(pending.pieces));
    return '';
  }

  private expect(pending: PendingSegment, id: string): void {
    this.expected++;
    const arrive = async () => {
      await arrivalOf(pending);
      await whole(pending);
      this.expected--;
      this.arrived.push({ pending, id });
      this.wake?.();
    };
    void arrive();
  }

  /** What is before the end of `<body>`: late parts in the order in which they come, then the rest. */
  private end(): string | Promise<unknown> {
    const next = this.arrived.shift();
    if (next) {
      this.open.push(begin(this.latePieces(next.pending, next.id)));
      return '';
    }
    if (this.expected > 0) {
      return new Promise<void>((resolve) => {
        this.wake = resolve;
      });
    }
    this.hasEnded = true;
    return this.settings.atEnd();
  }

  private latePieces({ state, pieces, wrapper }: PendingSegment, id: string): Piece[] {
    const content = state.kind === 'failed' ? [this.settings.onFailure(state.failure)] : pieces;
    if (wrapper === undefined) return [`<template ${lateAttribute}="${id}">`, ...content, '</template>\n'];
    // Without such an element around it the parser would take it for HTML.
    return [
      `<template ${lateAttribute}="${id}" ${wrappedAttribute}><${wrapper}>`,
      ...content,
      `</${wrapper}></template>\n`,
    ];
  }
}

function begin(pieces: Piece[]): Position {
  return { pieces, at: 0, read: 0 };
}

/** Reads as much of a text as there is room for, so that a long one is handed on in pieces. */
function readText(text: string, position: Position, room: number): string {
  const { read } = position;
  // A little more than there is room for is no reason for another piece.
  if (text.length - read <= 2 * room) {
    // What was read is forgotten: readers may wait for the rest for a long time.
    position.pieces[position.at] = '';
    position.at++;
    position.read = 0;
    return read === 0 ? text : text.slice(read);
  }
  // A surrogate pair is one character in UTF-8.
  const isPair = (text.charCodeAt(read + room - 1) & 0xfc00) === 0xd800;
  position.read = read + room + (isPair ? 1 : 0);
  return text.slice(read, position.read);
}
