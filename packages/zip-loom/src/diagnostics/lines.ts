/** Places in a text: by offsets, and by lines and columns. */

/** A part of a text, from `start` up to, not including, `end`; in UTF-16 code units. */
export interface Span {
  start: number;
  end: number;
}

/** A line and a column, both counted from 1; columns count UTF-16 code units. */
export interface Position {
  line: number;
  column: number;
}

/** Finds lines and columns. What it needs is worked out when it is first asked. */
export class Lines {
  private readonly source: string;
  private starts: number[] | undefined;

  constructor(source: string) {
    this.source = source;
  }

  /** The line and column of an offset. */
  at(offset: number): Position {
    this.starts ??= lineStarts(this.source);
    let [low, high] = [0, this.starts.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.starts[middle]! <= offset) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: offset - this.starts[low]! + 1 };
  }

  /** The offset of a line and a column. */
  offsetOf({ line, column }: Position): number {
    this.starts ??= lineStarts(this.source);
    return (this.starts[line - 1] ?? this.source.length) + column - 1;
  }
}

function lineStarts(source: string): number[] {
  const starts = [0];
  for (let next = source.indexOf('\n'); next !== -1; next = source.indexOf('\n', next + 1)) starts.push(next + 1);
  return starts;
}
