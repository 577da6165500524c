/** Source maps of built modules: from the generated code to the template (ECMA-426). */
import { addSegment, GenMapping, setSourceContent, toEncodedMap } from '@jridgewell/gen-mapping';
import { Lines } from '../../diagnostics/index.ts';
import type { Mapping } from './code-writer.ts';

/** A stretch of a module that came from one template. */
export interface MappedPart {
  /** Where it begins in the module, in UTF-16 code units. */
  offset: number;
  /** Places in it, from its own start. */
  mappings: readonly Mapping[];
  /** The template as the map names it, and its text. */
  source: string;
  content: string;
}

/** The map of a module as JSON. Parts are in the order of the module. */
export function sourceMap(code: string, parts: readonly MappedPart[]): string {
  const map = new GenMapping();
  const lines = linesOf(code);
  for (const { offset, mappings, source, content } of parts) {
    setSourceContent(map, source, content);
    const positions = new Lines(content);
    const segments = mappings
      .flatMap((mapping) => segmentsOf(mapping, offset, code))
      .sort((a, b) => a.generated - b.generated || Number(a.original === undefined) - Number(b.original === undefined));
    for (const { generated, original } of segments) {
      const { line, column } = lines(generated);
      if (original === undefined) {
        addSegment(map, line, column);
      } else {
        const place = positions.at(original);
        addSegment(map, line, column, source, place.line - 1, place.column - 1);
      }
    }
  }
  return JSON.stringify(toEncodedMap(map));
}

interface Segment {
  generated: number;
  /** Missing where the code comes from no place of the template. */
  original: number | undefined;
}

function segmentsOf({ kind, generated, source, length }: Mapping, offset: number, code: string): Segment[] {
  const start = generated + offset;
  if (kind === 'line') return [{ generated: start, original: source }];
  // An expression is as it is, token by token: errors are thrown at the beginning of one.
  const tokens = [...code.slice(start, start + length).matchAll(/[\p{ID_Continue}$]+|\n|[^\s\p{ID_Continue}$]/gu)];
  const segments: Segment[] = tokens.map(({ index }) => ({ generated: start + index, original: source + index }));
  // What follows belongs to nothing; the next expression of the line is nearer to it than this one.
  segments.push({ generated: start + length, original: undefined });
  return segments;
}

/** Lines and columns of offsets, both counted from 0; offsets are asked for in rising order. */
function linesOf(code: string): (offset: number) => { line: number; column: number } {
  let line = 0;
  let lineStart = 0;
  return (offset) => {
    for (let next = code.indexOf('\n', lineStart); next !== -1 && next < offset; next = code.indexOf('\n', lineStart)) {
      line++;
      lineStart = next + 1;
    }
    return { line, column: offset - lineStart };
  };
}
