/** Prints template errors for people: in colour on a terminal, plain elsewhere. */
import colours from 'picocolors';
import type { TemplateError } from '../diagnostics/index.ts';

/** Prints one error and those found with it. */
export function reportError(error: TemplateError, stream: NodeJS.WriteStream = process.stderr): void {
  stream.write(`${[error, ...error.others].map((one) => coloured(one, stream)).join('\n\n')}\n`);
}

function coloured(error: TemplateError, stream: NodeJS.WriteStream): string {
  const [place = '', ...lines] = error.format().split('\n\n')[0]!.split('\n');
  if (!stream.isTTY || !colours.isColorSupported) return [place, ...lines].join('\n');
  return [
    colours.bold(place.replace(error.code, colours.red(error.code))),
    ...lines.map((line) => line.replace(/~+$/, colours.red)),
  ].join('\n');
}
