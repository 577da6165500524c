/** Errors of templates as Vite shows them: in its overlay, and where a build ends. */
import { resolve } from 'node:path';
import { asError, isThrown, TemplateError } from '../diagnostics/index.ts';

/** What an overlay shows. */
export interface OverlayError {
  message: string;
  stack: string;
  id?: string;
  frame?: string;
  plugin: string;
  loc?: { file: string; line: number; column: number };
}

export function overlayError(error: unknown): OverlayError {
  const plugin = 'zip-loom';
  if (!isThrown(error, TemplateError)) return { message: asError(error).message, stack: '', plugin };
  return { ...rollupError(error), stack: '', plugin };
}

/** What the hooks of a build are ended with. */
export function rollupError(error: TemplateError) {
  const { line, column } = error;
  const file = resolve(error.file);
  // Vite takes the space at the start away, and with it what the mark stands below.
  return { message: saidBy(error), id: file, frame: error.frame.replace(/^ {2}/gm, ''), loc: { file, line, column } };
}

/** Code, what is wrong, and what to do; the place has a line of its own. */
function saidBy({ code, diagnostic: { message, hint } }: TemplateError): string {
  return `${code}: ${message}${hint === '' ? '' : ` ${hint}`}`;
}
