/** The version of the library. */
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The package’s version, from where it is published. */
export function versionOf(): string {
  const manifest = join(dirname(fileURLToPath(import.meta.url)), '../../package.json');
  const { version } = JSON.parse(readFileSync(manifest, 'utf8')) as { version: string };
  return version;
}
