/** Names that people try in expressions, and what is meant. */

import { guessTable } from '../../diagnostics/index.ts';

const take = 'Take each value by its name: <meta (takes title, berths)> at the start of the file.';
const request =
  'What belongs to the request is in “context”, as your own context function makes it: context.user, context.url.';
const browser = 'A template knows no browser: it may run on a server. Give it what it needs as data.';
const program =
  'A template knows nothing of the program around it: give it the value as data, in the context, or as a helper.';
const row = 'Name the place of a row in the loop: (for item, index of items).';
const slot = 'Content that a caller gives is placed with <slot></slot>; slots.default tells whether there is any.';
const token = 'Nothing is needed: a form that posts has its token by itself. For scripts it is context.token.';
const messages = 'Messages of a field are shown by (errors field) inside of (bind form).';

/** The hint for each name. */
export const nameGuesses: ReadonlyMap<string, string> = guessTable(
  [
    take,
    'props',
    'locals',
    'model',
    'params',
    'it',
    'self',
    'vars',
    'values',
    'attrs',
    'attributes',
    'args',
    'scope',
    'state',
  ],
  [
    request,
    'request',
    'req',
    'session',
    'ctx',
    'user',
    'currentUser',
    'cookies',
    'headers',
    'query',
    'url',
    'path',
    'locale',
  ],
  [browser, 'window', 'document', 'navigator', 'localStorage', 'globalThis', 'self'],
  [program, 'process', 'require', 'module', 'exports', 'global', 'console', 'fetch', 'Buffer', 'env', '__dirname'],
  [row, 'loop', '$index', 'forloop', 'idx'],
  [slot, 'children', 'yield', 'slot', 'outlet', '$slots', '$children'],
  [token, 'csrf', 'csrfToken', 'csrf_token', 'csrfField', '_csrf', 'token'],
  [messages, 'errorMessage'],
  [
    'Write trustedHTML(text), for markup that no visitor can write.',
    'raw',
    'html',
    'safe',
    'unescaped',
    'markup',
    'unescape',
  ],
  [
    'Write date(value), time(value) or dateTime(value).',
    'formatDate',
    'dateFormat',
    'format',
    'strftime',
    'moment',
    'datetime',
  ],
  ["Write money(amount, 'GBP').", 'formatCurrency', 'toMoney'],
  ['Write number(value).', 'formatNumber', 'numberFormat'],
  ["Write plural(count, 'berth', 'berths').", 'pluralize', 'pluralise', 'ngettext'],
  ['Write relativeTime(moment).', 'timeAgo', 'timeago', 'fromNow', 'ago'],
  [
    'Write the path as it is, as href="css/site.css", or asset(\'css/site.css\').',
    'static',
    'assetPath',
    'asset_path',
    'staticFile',
  ],
  [
    'A template is called by its name as an element: <berth-card berth=${berth}></berth-card>.',
    'include',
    'partial',
    'component',
    'render',
    'block',
  ],
  [
    'Values are escaped by themselves, for the place where each one is.',
    'escape',
    'escapeHTML',
    'escapeHtml',
    'e',
    'h',
    'encode',
  ],
  [
    'Strings have methods of their own: name.toUpperCase(), name.toLowerCase(), name.trim().',
    'upper',
    'lower',
    'uppercase',
    'lowercase',
    'capitalize',
    'trim',
  ],
);
