/** A change of a text. */
import type { Span } from 'zip-loom/internal/diagnostics';

/** What is written in place of a part of a file. */
export interface Edit extends Span {
  text: string;
}

/** A text after changes, no two of which touch each other. */
export function edited(source: string, edits: readonly Edit[]): string {
  let text = source;
  for (const { start, end, text: instead } of [...edits].sort((one, other) => other.start - one.start))
    text = text.slice(0, start) + instead + text.slice(end);
  return text;
}
