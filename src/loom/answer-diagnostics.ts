/** What can be wrong with an answer, and what is logged of requests. */
import { catalogue, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'invalid-status': worded<{ status: string }>({
    message: ({ status }) => `“${status}” is not the status of a page.`,
    hint: () => 'Give a number from 200 to 599.',
    examples: [{ status: 'ok' }],
  }),
  'invalid-policy': worded<{ directive: string }>({
    message: ({ directive }) => `The addition “${directive}” to the policy is not a directive with its sources.`,
    hint: () => "Write names and sources as in the header, such as add: { 'img-src': 'https://photos.example' }.",
    examples: [{ directive: 'img' }],
  }),
  'missing-verification': worded<{ method: string; path: string }>({
    message: ({ method, path }) => `${method} ${path} was answered without a check of where it came from.`,
    hint: () => 'Read its form with exchange.read(…), or call exchange.verify() first.',
    examples: [{ method: 'POST', path: '/boats' }],
  }),
  'missing-form-names': worded<{ form: string }>({
    severity: 'warning',
    message: ({ form }) => `The form “${form}” came without the list of names that (bind …) adds.`,
    hint: () => 'Read a form written by hand with “only”.',
    examples: [{ form: 'boat' }],
  }),
  'missing-form-state': worded<{ form: string }>({
    severity: 'warning',
    message: ({ form }) => `The form “${form}” came without the state that its steps, “once” or “version” need.`,
    hint: () => 'Show it with (bind …), with the same “version” as it is read with.',
    examples: [{ form: 'stay' }],
  }),
  'expired-form': worded<{ form: string }>({
    severity: 'warning',
    message: ({ form }) => `The form “${form}” was open for more than a day, or its parts came from several pages.`,
    hint: () => 'The visitor sees what was typed and can send it again.',
    examples: [{ form: 'boat' }],
  }),
  'unknown-host': worded<{ host: string }>({
    severity: 'warning',
    message: ({ host }) =>
      `A request came for “${host}”, which any site may point at this machine, so it gets no details of errors.`,
    hint: ({ host }) => `If that is your own name, set the option: origin: 'http://${host}'.`,
    examples: [{ host: 'evil.example.com:3000' }],
  }),
  'refused-caching': worded<{ header: string }>({
    severity: 'warning',
    message: ({ header }) =>
      `A page that holds a visitor’s token, message or cookie was sent with Cache-Control “${header}”.`,
    hint: () => 'Leave the header out, or answer with “private, no-store”.',
    examples: [{ header: 'public, max-age=60' }],
  }),
  'missing-origin': sentence(
    'Browsers reach this site over TLS, but requests arrive without it, so cookies are not Secure.',
    'Set “origin” to what browsers see, or “trustProxy” where a proxy says it in Forwarded or X-Forwarded-Proto.',
    'warning',
  ),
  'unreadable-body': sentence(
    'The body of this request was read before the exchange could read it.',
    'Leave bodies to the exchange, or mount body parsers behind it. Under Express, express.urlencoded({ extended: false }) leaves what can be used.',
    'warning',
  ),
  'refused-flash-action': sentence(
    'The action of a flash message leads to another site, so the message is shown without it.',
    'Use a URL of this site, such as /boats/7/restore.',
    'warning',
  ),
  'refused-redirect': sentence(
    'A redirect to another site was refused; the visitor goes to the start page.',
    'Allow it with “external” where the URL is your own.',
    'warning',
  ),
};

export const answerDiagnostic = catalogue(wordings);
