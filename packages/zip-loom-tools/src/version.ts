/** The version of the tools. */
import { createRequire } from 'node:module';

/** The version of this package: that of the library which it belongs to. */
export function versionOf(): string {
  const { version } = createRequire(import.meta.url)('zip-loom-tools/package.json') as { version: string };
  return version;
}
