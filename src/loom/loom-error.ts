/** Errors of a call to the loom that are not about the inside of one template. */
import type { Complaint } from '../language/index.ts';
import { messageOf } from '../runtime/index.ts';

export class LoomError extends Error {
  override readonly name = 'LoomError';
  readonly code: string;
  readonly hint: string | undefined;

  constructor(code: string, message: string, hint?: string) {
    super(hint ? `${message} ${hint}` : message);
    this.code = code;
    this.hint = hint;
  }
}

/** What is wrong with the data of a page that leaves out what it takes. */
export function missingValue(page: string, missing: readonly string[], given: readonly string[]): Complaint {
  return {
    code: 'missing-value',
    message: `${page} takes ${missing.join(', ')}, which was not given; it was given ${given.join(', ') || 'nothing'}.`,
    hint: 'Add it to the data of render, partial or respond.',
  };
}

/** Lines for the log about requests that were not taken as they came. */
export const loomNotices = {
  unboundForm: (form: string): Complaint => ({
    code: 'unbound-form',
    message: `The form “${form}” came without the list of names that (bind …) adds.`,
    hint: 'Read a form written by hand with “only”.',
  }),
  oldForm: (form: string): Complaint => ({
    code: 'old-form',
    message: `The form “${form}” was open for more than a day, or its parts came from several pages.`,
    hint: 'The visitor sees what was typed and can send it again.',
  }),
  hiddenTLS: (): Complaint => ({
    code: 'hidden-tls',
    message: 'Browsers reach this site over TLS, but requests arrive without it, so cookies are not Secure.',
    hint: 'Set “origin” to what browsers see, or “trustProxy” where a proxy says it in Forwarded or X-Forwarded-Proto.',
  }),
  keptPage: (header: string): Complaint => ({
    code: 'kept-page',
    message: `A page that holds a visitor’s token, message or cookie was sent with Cache-Control “${header}”.`,
    hint: 'Leave the header out, or answer with “private, no-store”.',
  }),
  redirectElsewhere: (): Complaint => ({
    code: 'redirect-elsewhere',
    message: 'A redirect to another site was refused; the visitor goes to the start page.',
    hint: 'Allow it with “external” where the address is your own.',
  }),
};

/** All of them, in one list and one voice. */
export const loomErrors = {
  unknownPage: (name: string, hint: string | undefined): LoomError =>
    new LoomError(
      'unknown-page',
      `There is no page “${name}”.`,
      hint ?? 'Pages are rendered by their path below the pages’ folder, without “.html”.',
    ),
  unknownPartial: (name: string, hint: string | undefined): LoomError =>
    new LoomError(
      'unknown-partial',
      `There is no template “${name}”.`,
      hint ?? 'Give the name of a partial, as “berth-card”, or of a page.',
    ),
  unknownLayout: (name: string, page: string, hint: string | undefined): LoomError =>
    new LoomError(
      'unknown-layout',
      `The configuration names the layout “${name}” for “${page}”, and there is none.`,
      hint ?? 'Return the name of a layout, or none.',
    ),
  invalidStatus: (value: unknown): LoomError =>
    new LoomError(
      'invalid-status',
      `“${messageOf(value)}” is not the status of a page.`,
      'Give a number from 200 to 599.',
    ),
  dataNotAnObject: (name: string): LoomError =>
    new LoomError(
      'data-not-an-object',
      `The data for “${name}” is not an object.`,
      'Give names and values, as { berths }.',
    ),
  missingSecret: (): LoomError =>
    new LoomError(
      'missing-secret',
      'A template of this project posts a form, so in production the loom needs a secret.',
      'Pass “secret”, from the environment: at least 16 random characters. A list lets secrets rotate.',
    ),
  shortSecret: (shortest: number): LoomError =>
    new LoomError(
      'short-secret',
      `A secret has at least ${shortest} characters.`,
      'Make one with: openssl rand -base64 32',
    ),
  weakSecret: (): LoomError =>
    new LoomError('weak-secret', 'A secret is made of a few letters only.', 'Make one with: openssl rand -base64 32'),
  invalidOrigin: (origin: string): LoomError =>
    new LoomError(
      'invalid-origin',
      `“${origin}” is not the origin of a site.`,
      'Give scheme, host and port and no more, as https://harbour.example.',
    ),
  invalidPolicy: (name: string): LoomError =>
    new LoomError(
      'invalid-policy',
      `The addition “${name}” to the policy is not a directive with its sources.`,
      "Write names and sources as in the header, as add: { 'img-src': 'https://photos.example' }.",
    ),
  unverified: (method: string, path: string): LoomError =>
    new LoomError(
      'unverified-request',
      `${method} ${path} was answered without a check of where it came from.`,
      'Read its form with exchange.read(…), or call exchange.verify() first.',
    ),
  noTemplates: (): LoomError =>
    new LoomError(
      'no-templates',
      'A loom needs templates.',
      'Give “sources”, or under Node “templates” with the path of a folder.',
    ),
  missingValue: ({ code, message, hint }: Complaint): LoomError => new LoomError(code, message, hint),
  otherFormat: (): LoomError =>
    new LoomError('other-format', 'These templates were built by another version.', 'Run “zip-loom build” again.'),
  missingHelpers: (names: readonly string[]): LoomError =>
    new LoomError(
      'missing-helpers',
      `The built templates use helpers that are missing: ${names.join(', ')}.`,
      'Pass them as “helpers”, as when the templates were built.',
    ),
  missingChooser: (page: string): LoomError =>
    new LoomError(
      'missing-layout-function',
      `When “${page}” was built, a function named its layout.`,
      'Pass the same “layouts” as then.',
    ),
  helperNotAFunction: (name: string): LoomError =>
    new LoomError(
      'helper-not-a-function',
      `The helper “${name}” is not a function.`,
      'Helpers are plain functions; hand other values over as data or in the context.',
    ),
};
