/** Template errors for people. */
import type { TemplateError } from 'zip-loom/internal/diagnostics';
import { colours } from './colours.ts';

/**
 * An error and those found with it.
 * @param hint what to do about it here, in place of its own hint
 */
export function errorText(error: TemplateError, hint?: string): string {
  const texts = [error, ...error.others].map(coloured);
  if (hint !== undefined && error.hint !== '') texts[0] = texts[0]!.replace(error.hint, () => hint);
  return texts.join('\n\n');
}

function coloured(error: TemplateError): string {
  const [place = '', ...lines] = error.format().split('\n\n')[0]!.split('\n');
  return [
    colours.bold(place.replace(error.code, colours.red(error.code))),
    ...lines.map((line) => line.replace(/~+$/, colours.red)),
  ].join('\n');
}
