/** Colours for people at a terminal: none in a file, a pipe or a job of CI, unless `FORCE_COLOR` asks for them. */
import picocolors from 'picocolors';

/** The colours of what is written to a stream. `NO_COLOR` and `--no-color` switch them off everywhere. */
export function coloursOf(stream: NodeJS.WriteStream): ReturnType<typeof picocolors.createColors> {
  const wanted = stream.isTTY || Boolean(process.env['FORCE_COLOR']);
  return picocolors.createColors(picocolors.isColorSupported && wanted);
}

/** The colours of standard output. */
export const colours = coloursOf(process.stdout);
