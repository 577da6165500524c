/** Forms: definition, binding, reading, tokens, flash messages. */

export { readCookie, writeCookie } from './cookies.ts';
export { defineForm } from './definition.ts';
export { type Entries, type Entry, readEntries } from './entries.ts';
export { type Flash, type FlashMessage, flashLife, flashMessage, openFlash, sealFlash } from './flash.ts';
export { Form, type FormDefinition, type FormViewOf, type ModelOf } from './form.ts';
export { type BindOptions, type ChoiceLists, type Field, type FieldErrors, FormView } from './form-view.ts';
export type { Limits } from './limits.ts';
export { defaultLimits } from './limits.ts';
export type { MessageCode, Messages } from './messages.ts';
export { formOfNames, type OpenedNames, openNames, sealNames } from './names.ts';
export { effectiveMethod, isSafeMethod, type Provenance, provenance, withEffectiveMethod } from './origin.ts';
export { type Readable, readForm, readQuery, refusedForm } from './read.ts';
export { externalAddress, localAddress } from './redirects.ts';
export type { StandardSchema } from './schema.ts';
export { createSealer, randomText, type Sealer } from './sealing.ts';
export { type Accepted, type Refused, refusedStatus, type Sent, type SentStatus } from './sent.ts';
export { isSession, makeToken, newSession, pageOfToken } from './session.ts';
export type { FormOptions } from './settings.ts';
export { comesOverTLS, normalOrigin, publicAddress, type SiteSettings } from './site.ts';
export { formTemplates } from './templates.ts';
