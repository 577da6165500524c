/** What the options of a loom say about its secrets and its place on the web. */
import { LoomError } from '../diagnostics/index.ts';
import type { Codes } from './codes.ts';
import { securityDiagnostic } from './diagnostics.ts';
import { randomText } from './random-text.ts';
import { createSealer, type Sealer } from './sealing.ts';
import { normalOrigin, type SiteSettings } from './site.ts';

/**
 * The sealer of a loom.
 * @param secret the first seals, all open; without one a secret is made that lasts as long as the process
 * @param isNeeded whether the secret must be given: in production, where a template of the project posts a form
 * @throws {LoomError} when it is needed and missing, too short, or too easy to guess
 */
export function sealerFor(secret: string | readonly string[] | undefined, isNeeded: boolean, codes: Codes): Sealer {
  const secrets = typeof secret === 'string' ? [secret] : [...(secret ?? [])];
  if (secrets.some(({ length }) => length < shortestSecret))
    throw new LoomError(securityDiagnostic('invalid-secret', { shortest: shortestSecret, isTooShort: true }));
  if (secrets.some((one) => new Set(one).size < fewestCharacters))
    throw new LoomError(securityDiagnostic('invalid-secret', { shortest: shortestSecret, isTooShort: false }));
  if (secrets.length === 0 && isNeeded) throw new LoomError(securityDiagnostic('missing-secret'));
  return createSealer(secrets.length > 0 ? secrets : [randomText(32)], codes);
}

/** What a loom is told of its site. */
export interface SiteOptions {
  origin?: string | undefined;
  trustProxy?: boolean | number | undefined;
}

/**
 * Where the site is for its browsers, as the options say.
 * @throws {LoomError} for an origin that is none
 */
export function siteSettings({ origin, trustProxy = false }: SiteOptions): SiteSettings {
  const normal = origin === undefined ? undefined : normalOrigin(origin);
  if (origin !== undefined && normal === undefined)
    throw new LoomError(securityDiagnostic('invalid-origin', { origin }));
  return { origin: normal, proxies: Math.max(0, Math.floor(Number(trustProxy))) || 0 };
}

/** Shorter secrets could be guessed. */
const shortestSecret = 16;

/** Random text of the shortest length has more different characters than this, also in hexadecimal. */
const fewestCharacters = 6;
