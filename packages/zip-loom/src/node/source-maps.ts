/** Where in the templates an error came from, by the source maps of built modules. They are read when an error asks for them. */
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import {
  GREATEST_LOWER_BOUND,
  LEAST_UPPER_BOUND,
  originalPositionFor,
  sourceContentFor,
  TraceMap,
} from '@jridgewell/trace-mapping';
import type { BuiltTemplate, BuiltTemplates } from '../kernel/index.ts';
import type { PlaceInFile } from '../loom/index.ts';

/** Finds the places of templates in the stack of an error, the innermost first. */
export function placesByMaps(built: BuiltTemplates): (error: Error) => PlaceInFile[] {
  const byModule = new Map<string, BuiltTemplate[]>();
  for (const template of built.templates) {
    const path = pathOf(template.module);
    byModule.set(path, [...(byModule.get(path) ?? []), template]);
  }
  const maps = new Map<string, TraceMap | undefined>();
  const mapOf = (path: string): TraceMap | undefined => {
    if (!maps.has(path)) maps.set(path, readMap(`${path}.map`));
    return maps.get(path);
  };
  return (error) => {
    const places: PlaceInFile[] = [];
    for (const call of (error.stack ?? '').split('\n')) {
      // The message comes first, and may be any text of a visitor.
      if (call.length > longestCall || !/^\s+at /.test(call)) continue;
      const [, href = '', line = '', column = ''] = /((?:file:\/\/)?\/[^\s()]+?):(\d+):(\d+)/.exec(call) ?? [];
      if (href === '') continue;
      const path = pathOf(href);
      const templates = byModule.get(path);
      const map = templates && mapOf(path);
      const place = map && placeIn(map, Number(line), Number(column) - 1);
      // The map names the file from where the module is; its end is the path below the templates’ folder.
      const template = templates?.find(({ id }) => place?.name.endsWith(id.replace(/#.*/, '')));
      if (place && template) places.push({ ...place, file: template.file });
    }
    return places;
  };
}

/** A path, with a name before it, is shorter: PATH_MAX is 4,096 bytes on most systems. */
const longestCall = 5000;

/** From a line, counted from 1, and a column, counted from 0, of generated code. */
function placeIn(
  map: TraceMap,
  line: number,
  column: number,
): (Omit<PlaceInFile, 'file'> & { name: string }) | undefined {
  const before = originalPositionFor(map, { line, column, bias: GREATEST_LOWER_BOUND });
  // A call of the run-time is before the expression that it prints.
  const found = before.source === null ? originalPositionFor(map, { line, column, bias: LEAST_UPPER_BOUND }) : before;
  if (found.source === null) return undefined;
  const source = sourceContentFor(map, found.source);
  if (source === null) return undefined;
  const offset = lineStart(source, found.line) + found.column;
  return { name: found.source, source, offset, length: 1 };
}

function lineStart(source: string, line: number): number {
  let start = 0;
  for (let at = 1; at < line; at++) start = source.indexOf('\n', start) + 1;
  return start;
}

function readMap(file: string): TraceMap | undefined {
  try {
    return new TraceMap(readFileSync(file, 'utf8'));
  } catch {
    // Without its map a module still runs; the error keeps the place in the module.
    return undefined;
  }
}

function pathOf(href: string): string {
  return href.startsWith('file:') ? fileURLToPath(href) : href;
}
