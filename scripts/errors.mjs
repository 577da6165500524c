/** `npm run errors`: writes docs/errors.md from the lists of messages in the code. With `--check` it only tells whether the page is current. */
import { readFileSync, writeFileSync } from 'node:fs';
import { callErrors } from '../dist/cli/call-error.js';
import { complaints as ofTemplates } from '../dist/compiler/complaints.js';
import { complaints as ofReading } from '../dist/language/complaints.js';
import { loomErrors, loomNotices, missingValue } from '../dist/loom/loom-error.js';
import { nodeErrors } from '../dist/node/node-errors.js';
import { notices } from '../dist/runtime/notices.js';
import { renderErrors } from '../dist/runtime/render-error.js';

const page = 'docs/errors.md';

// It only makes an error of what another list says.
const { missingValue: _, ...ofCalls } = loomErrors;

const parts = [
  ['While a template is read', 'Found by `check`, and when a page is rendered.', ofReading],
  ['Between templates, and in places of values', 'Found by `check`, and when a page is rendered.', ofTemplates],
  ['While a page is rendered', 'With the place in the template and the calls that led there.', renderErrors],
  ['When a loom is called', 'Thrown by `createLoom`, `render` and their like.', { missingValue, ...ofCalls }],
  ['Under Node', 'Files and folders.', nodeErrors],
  ['On the command line', 'Exit code 2.', callErrors],
  ['In the log', 'The page goes on.', { ...notices, ...loomNotices }],
];

/** An example for each parameter of a message, by its name. */
const examples = {
  address: 'javascript:…',
  box: 'box',
  call: 'berth-card',
  chain: ['a-layout', 'b-layout'],
  complaint: undefined,
  declaration: 'partials/berth-card.html (takes berth)',
  element: 'a',
  error: Object.assign(new Error('…'), { code: 'ENOENT' }),
  field: 'name',
  file: 'the-file',
  folder: 'templates',
  form: 'boat',
  given: ['query'],
  header: 'public, max-age=60',
  hint: undefined,
  known: ['name', 'length'],
  limit: 200,
  line: 3,
  method: 'POST',
  missing: ['berths'],
  name: 'name',
  names: ['shout'],
  nearest: undefined,
  open: 'p',
  origin: 'harbour.example',
  other: 'partials/other.html',
  owner: 'site-layout',
  page: 'berths/list',
  path: 'img/tern.jpg',
  place: 'pages/home.html:3:5',
  reason: '…',
  scheme: 'javascript',
  schemes: ['http', 'https'],
  segment: '..',
  shortest: 16,
  slot: 'head',
  text: 'expression(…)',
  value: {},
  what: 'The file',
  where: 'the place of a whole style',
  word: 'takes',
  written: '(if condition)',
};

/** The names of a function’s parameters. */
function parametersOf(make) {
  const [, list = ''] = /^[^(]*\(((?:[^()]|\([^)]*\))*)\)/.exec(String(make)) ?? [];
  return list.split(',').flatMap((name) => name.replace(/=.*$/s, '').trim() || []);
}

function messageOf(name, make) {
  const given = parametersOf(make).map((parameter) => {
    if (parameter.startsWith('{')) return undefined;
    if (!(parameter in examples)) throw new Error(`${name}: there is no example for “${parameter}”.`);
    return examples[parameter];
  });
  const { code, message, hint } = make(...given);
  if (!hint) throw new Error(`${name} (${code}) says what is wrong, but not what to do.`);
  // An error of a loom says both in its message.
  const said = message.endsWith(hint) ? message.slice(0, -hint.length).trim() : message;
  return { code, said, hint };
}

const cell = (text) => text.replace(/([\\|<>*_$`])/g, '\\$1').replace(/\s+/g, ' ');

const sections = parts.map(([title, where, list]) => {
  const rows = Object.entries(list)
    .map(([name, make]) => messageOf(name, make))
    .sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0))
    .map(({ code, said, hint }) => `| \`${code}\` | ${cell(said)} | ${cell(hint)} |`);
  return `## ${title}\n\n${where}\n\n| code | what is wrong | what to do |\n|---|---|---|\n${rows.join('\n')}\n`;
});
const text = `# Messages

Every message has a stable code, says what is wrong and what to do. This page is made from the code, with examples in the places of names:
\`npm run errors\`.

${sections.join('\n')}`;

if (!process.argv.includes('--check')) {
  writeFileSync(page, text);
} else if (readFileSync(page, 'utf8') !== text) {
  console.error(`${page} is not what the code says. Run: npm run errors`);
  process.exit(1);
}
