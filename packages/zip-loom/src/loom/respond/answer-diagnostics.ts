/** What can be wrong with an answer, and what is logged of requests. */
import { catalogue, didYouMean, type Near, sentence, worded } from '../../diagnostics/index.ts';

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
  'unshown-error': worded<{ form: string; field: string; text: string }>({
    severity: 'warning',
    message: ({ form, text }) => `The form “${form}” has an error that this page does not show: “${text}”`,
    hint: ({ field }) =>
      field === ''
        ? 'Add <ul (errors)></ul> to the form, for what concerns all of it.'
        : `Add <p (errors ${field})></p> beside the field, or <ul (errors)></ul> for a summary of all errors.`,
    examples: [
      { form: 'boat', field: '', text: 'This form was not sent from our own page.' },
      { form: 'boat', field: 'name', text: 'Name is required.' },
    ],
  }),
  'unshown-message': worded<{ page: string; text: string }>({
    severity: 'warning',
    message: ({ page, text }) =>
      `The page “${page}” has no place for the flash message “${text}”. The next page that has one shows it.`,
    hint: () => 'Add <flash-messages></flash-messages> to the page or its layout.',
    examples: [{ page: 'boats/list', text: 'The boat is saved.' }],
  }),
  'missing-channels': worded<{ page: string }>({
    severity: 'warning',
    message: ({ page }) => `The page “${page}” has a region with a channel, but this loom has no channels.`,
    hint: () => "Add: const channels = createChannels({ loom, broker: memoryBroker() }), from 'zip-loom/channels'.",
    examples: [{ page: 'arrivals' }],
  }),
  'missing-channels-route': worded<{ path: string }>({
    severity: 'warning',
    message: ({ path }) =>
      `A page with channels was shown more than 15 seconds ago, and no request for “${path}” has reached the channels.`,
    hint: ({ path }) =>
      `Route it: app.get('${path}', (req, res) => channels.connect(req, res, { authorize: () => true })). With Fetch: channels.connect(request, …).`,
    examples: [{ path: '/channels' }],
  }),
  'unmounted-value': worded<{ url: string; base: string }>({
    severity: 'warning',
    message: ({ url, base }) =>
      `The value “${url.slice(0, 80)}” leads to the root of the host, and the site is mounted below “${base}”.`,
    hint: () => 'Make it with pathTo(…), in the template or where the data comes from.',
    examples: [{ url: '/boats', base: '/app' }],
  }),
  'unknown-channel': worded<{ channel: string; nearest: Near | undefined }>({
    severity: 'warning',
    message: ({ channel }) => `Changes were published on “${channel}”, but no template has a region with that channel.`,
    hint: ({ channel, nearest }) => didYouMean(nearest) ?? `Write <ul (region arrivals channel="${channel}")>.`,
    examples: [
      { channel: 'arivals', nearest: { name: 'arrivals', isSure: true } },
      { channel: 'arrivals', nearest: undefined },
    ],
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
