/** Prints template errors for people: in colour on a terminal, plain elsewhere. */
import { LoomError, type TemplateError } from '../diagnostics/index.ts';
import { coloursOf } from './colours.ts';
import { systemErrorText } from './system-error.ts';

/**
 * Prints one error and those found with it.
 * @param hint what to do about it here, in place of its own hint
 */
export function reportError(error: TemplateError, stream: NodeJS.WriteStream = process.stderr, hint?: string): void {
  const texts = [error, ...error.others].map((one) => coloured(one, stream));
  if (hint !== undefined && error.hint !== '') texts[0] = texts[0]!.replace(error.hint, () => hint);
  stream.write(`${texts.join('\n\n')}\n`);
}

/** What is printed of an error that ended a command, or a look: a message where we know what it is, a stack where we do not. */
export function failureText(error: unknown): string {
  if (error instanceof LoomError) return error.message;
  return systemErrorText(error) ?? (error instanceof Error ? (error.stack ?? error.message) : String(error));
}

function coloured(error: TemplateError, stream: NodeJS.WriteStream): string {
  const [place = '', ...lines] = error.format().split('\n\n')[0]!.split('\n');
  const colours = coloursOf(stream);
  return [
    colours.bold(place.replace(error.code, colours.red(error.code))),
    ...lines.map((line) => line.replace(/~+$/, colours.red)),
  ].join('\n');
}
