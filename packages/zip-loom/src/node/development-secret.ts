/** A secret for development that outlives restarts, so that open pages and messages stay good while the program is written. */
import { randomBytes } from 'node:crypto';
import { existsSync, lstatSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { packagesOf, writableCache } from './cache-folder.ts';

/**
 * The secret of the project that a folder belongs to: kept where tools keep their caches, beside its packages. `undefined` where there is
 * no such place; then the secret lasts as long as the process.
 */
export function developmentSecret(start: string): string | undefined {
  const packages = packagesOf(start);
  if (packages === undefined) return undefined;
  try {
    const file = join(writableCache(packages, ''), 'development-secret');
    return readSecret(file) ?? makeSecret(file);
  } catch {
    return undefined;
  }
}

function readSecret(file: string): string | undefined {
  if (!existsSync(file) || !lstatSync(file).isFile()) return undefined;
  const secret = readFileSync(file, 'utf8').trim();
  return /^[\w-]{43}$/.test(secret) ? secret : undefined;
}

/** For this user alone. Of several processes that begin at once the first one’s is taken. */
function makeSecret(file: string): string | undefined {
  try {
    writeFileSync(file, `${randomBytes(32).toString('base64url')}\n`, { mode: 0o600, flag: 'wx' });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  return readSecret(file);
}
