/** Colours for people at a terminal: none in a file, a pipe or a job of CI, unless `FORCE_COLOR` asks for them. */
import picocolors from 'picocolors';

/** Texts are coloured always; where a stream has no colours, they are taken out when it is written to. */
export const colours = picocolors.createColors(true);

/** Tells whether a stream shows colours. `NO_COLOR` and `--no-color` switch them off everywhere. */
export function hasColours({ isTTY }: { isTTY?: boolean }): boolean {
  return picocolors.isColorSupported && (isTTY === true || Boolean(process.env['FORCE_COLOR']));
}
