/**
 * How a template that is traced tells which of its lines made what: control characters around the file and the line, before what they
 * made. They may not stand in HTML (§13.1.4), so that no page has them by itself.
 */

/** @param line counted from 1 */
export function lineMark(file: string, line: number): string {
  return `\u0001${file}\u0002${line}\u0003`;
}

/** All marks of a text, each with its file and its line. */
export const lineMarks = /\u0001([^\u0001-\u0003]*)\u0002(\d+)\u0003/g;
