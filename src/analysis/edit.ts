/** A change of a text. */
import type { Span } from '../diagnostics/index.ts';

/** What is written in place of a part of a file. */
export interface Edit extends Span {
  text: string;
}
