/** What a page that marks its lines and its parts tells: the page itself, and what made each stretch of it. */
import { type InspectedPart, lineMarks, readPartMark } from 'zip-loom/internal/protocol';

/** What one call of a template made. */
export interface TracedPart extends InspectedPart {
  /** Of the page, in UTF-16 code units. */
  start: number;
  end: number;
  /** With all that it calls. */
  milliseconds: number;
  parts: TracedPart[];
}

/** A stretch of the page that one line of a template made. */
interface TracedStretch {
  start: number;
  end: number;
  file: string;
  /** Counted from 1. */
  line: number;
}

export interface Trace {
  /** The page as it is without marks. */
  html: string;
  /** What no other part has called. */
  parts: TracedPart[];
  stretches: TracedStretch[];
}

/** @param marked what a loom that traces has rendered */
export function readTrace(marked: string): Trace {
  const trace: Trace = { html: '', parts: [], stretches: [] };
  const open: TracedPart[] = [];
  let last: Omit<TracedStretch, 'start' | 'end'> | undefined;
  const add = (text: string) => {
    if (text === '') return;
    const start = trace.html.length;
    trace.html += text;
    if (!last) return;
    const before = trace.stretches.at(-1);
    if (before?.end === start && before.file === last.file && before.line === last.line) before.end += text.length;
    else trace.stretches.push({ ...last, start, end: trace.html.length });
  };
  /** The lines around a call go on behind it. */
  const around: Array<typeof last> = [];
  for (const piece of marked.split(/(<!--\/?loom-part .*?-->)/s)) {
    const mark = piece.startsWith('<!--') ? readPartMark(piece.slice(4, -3)) : undefined;
    if (mark === undefined) {
      let at = 0;
      for (const found of piece.matchAll(lineMarks)) {
        add(piece.slice(at, found.index));
        last = { file: found[1]!, line: Number(found[2]) };
        at = found.index + found[0].length;
      }
      add(piece.slice(at));
    } else if (typeof mark === 'object') {
      const part: TracedPart = { ...mark, start: trace.html.length, end: 0, milliseconds: 0, parts: [] };
      (open.at(-1)?.parts ?? trace.parts).push(part);
      open.push(part);
      around.push(last);
      last = { file: mark.file, line: mark.line };
    } else {
      const part = open.pop();
      if (part) Object.assign(part, { end: trace.html.length, milliseconds: mark });
      last = around.pop();
    }
  }
  return trace;
}

/** The parts around a place of the page, the outermost first. */
export function partsAround(parts: readonly TracedPart[], offset: number): TracedPart[] {
  const part = parts.find(({ start, end }) => offset >= start && offset < end);
  return part ? [part, ...partsAround(part.parts, offset)] : [];
}
