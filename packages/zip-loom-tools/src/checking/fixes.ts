/** Fixes are written into the files of templates. */
import { readFileSync } from 'node:fs';
import { Lines } from 'zip-loom/internal/diagnostics';
import { pathOf, writeTemplates } from 'zip-loom/internal/node';
import { type Fix, withFixes } from '../analysis/index.ts';

/** What was written at a place; the place is that before the change. */
export interface FixedPlace {
  file: string;
  /** Counted from 1, columns in UTF-16 code units. */
  line: number;
  column: number;
  before: string;
  after: string;
}

/**
 * Writes as many fixes as fit together.
 * @param folder of the templates
 * @param sourceOf the text of a file as it was checked; a file that has changed since is left alone
 * @throws {LoomError} for a file outside the folder, with nothing written
 */
export function writeFixes(folder: string, fixes: readonly Fix[], sourceOf: (file: string) => string): FixedPlace[] {
  const files = [...new Set(fixes.map(({ diagnostic }) => diagnostic.file))];
  const texts = new Map<string, string>();
  const places = files.flatMap((file) => {
    const ofFile = fixes.filter(({ diagnostic }) => diagnostic.file === file);
    const source = sourceOf(file);
    const present = readFileSync(pathOf(file), 'utf8');
    const mark = present.startsWith('\ufeff') ? '\ufeff' : '';
    if (present !== mark + source) return [];
    const { text, done } = withFixes(source, ofFile);
    texts.set(file, mark + text);
    const lines = new Lines(source);
    return done.map(({ edits: [first] }) => {
      const { start, end, text: after } = first!;
      return { file, ...lines.at(start), before: source.slice(start, end), after: after.trim() };
    });
  });
  writeTemplates(folder, texts);
  return places;
}
