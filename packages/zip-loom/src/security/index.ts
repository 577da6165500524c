/** Sessions, tokens, sealing, origin checks, cookies, redirects, flash messages. */
export type { Codes } from './codes.ts';
export type { FlashAction } from './flash.ts';
export { type Flash, type FlashMessage, flashMessage } from './flash.ts';
export { isLocalHost } from './local-host.ts';
export {
  effectiveMethod,
  isSafeMethod,
  methodMeant,
  type Provenance,
  provenance,
  withEffectiveMethod,
} from './origin.ts';
export { ownOptions, ownValue } from './own-values.ts';
export { portableCodes } from './portable-codes.ts';
export { randomText } from './random-text.ts';
export type { Receipt } from './receipts.ts';
export { externalURL, localURL } from './redirects.ts';
export { formOfNames } from './sealed-names.ts';
export { type ProvedText, unprovedState } from './sealed-state.ts';
export type { Sealer } from './sealing.ts';
export { sealerFor, siteSettings } from './settings.ts';
export { clientAddress, comesOverTLS, publicOrigin, type SiteSettings } from './site.ts';
export { Visitor } from './visitor.ts';
