/** What an editor asks TypeScript: about places of a file, as its text is at that moment. */
import type { Lines } from 'zip-loom/internal/diagnostics';

/** Lines and columns from 0, columns in UTF-16 code units. */
export interface CodePosition {
  line: number;
  character: number;
}

export interface CodeRange {
  /** Its path. */
  file: string;
  start: CodePosition;
  end: CodePosition;
}

/** A name that may stand at a place. */
export interface TypedName {
  name: string;
  kind: 'field' | 'method' | 'text';
  /** What is written for it, where that is more: `?.name` takes the place of the dot too. */
  text: string;
}

/** Code and, in Markdown, what its comments say. */
export interface TypedDescription {
  code: string;
  text: string;
}

/** A file that is asked about: its text, which may not be on the disk, and a place in it. */
export interface CodePlace {
  file: string;
  text: string;
  offset: number;
}

export interface TypeService {
  completions(place: CodePlace): Promise<TypedName[]>;
  describe(place: CodePlace): Promise<TypedDescription | undefined>;
  definitions(place: CodePlace): Promise<CodeRange[]>;
  references(place: CodePlace): Promise<CodeRange[]>;
  /** Files have been written. */
  changed(files: readonly string[]): void;
  close(): void;
}

/** What of a name’s kind an editor shows. */
export function kindOf(isMethod: boolean, isText: boolean): TypedName['kind'] {
  if (isText) return 'text';
  return isMethod ? 'method' : 'field';
}

/** An offset as editors count it. */
export function codePosition(lines: Lines, offset: number): CodePosition {
  const { line, column } = lines.at(offset);
  return { line: line - 1, character: column - 1 };
}

export function offsetAt(lines: Lines, { line, character }: CodePosition): number {
  return lines.offsetOf({ line: line + 1, column: character + 1 });
}
