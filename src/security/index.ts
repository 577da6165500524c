/** Sessions, tokens, sealing, origin checks, cookies, redirects, flash messages. */
export { readCookie } from './cookies.ts';
export { type Flash, flashMessage } from './flash.ts';
export { effectiveMethod, isSafeMethod, type Provenance, provenance, withEffectiveMethod } from './origin.ts';
export { ownOptions, ownValue } from './own-values.ts';
export { externalURL, localURL } from './redirects.ts';
export { formOfNames } from './sealed-names.ts';
export { randomText, type Sealer } from './sealing.ts';
export { sealerFor, siteSettings } from './settings.ts';
export { comesOverTLS, publicURL, type SiteSettings } from './site.ts';
export { Visitor } from './visitor.ts';
