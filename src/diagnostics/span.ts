/** A part of a text, from `start` up to, not including, `end`; in UTF-16 code units. */
export interface Span {
  start: number;
  end: number;
}
