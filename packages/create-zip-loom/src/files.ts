/** A small running project: two pages, a layout, a partial, a form, a region, styles and tests. */
import { packageText } from './package.ts';
import { appOf } from './servers.ts';
import type { StarterSettings } from './settings.ts';
import { about, entry, home, layout, samples, styles, typedHead, types } from './texts.ts';

/** By their paths in the project. */
export function starterFiles(settings: StarterSettings): Record<string, string> {
  const { isTyped } = settings;
  const script = isTyped ? 'ts' : 'js';
  const typed = (text: string) => (isTyped ? text : '');
  return {
    'package.json': packageText(settings),
    ...(isTyped ? { 'tsconfig.json': tsconfig, 'templates.d.ts': types } : {}),
    '.gitignore': 'node_modules\n',
    'README.md': readme(settings),
    [`zip-loom.config.${isTyped ? 'ts' : 'mjs'}`]: configuration(isTyped),
    [`server.${script}`]: appOf(settings).server,
    [`app.${script}`]: appOf(settings).app,
    [`log.${script}`]: log(typed),
    [`forms.${script}`]: forms(typed),
    'public/site.css': styles,
    'templates/layouts/site-layout.html': layout,
    'templates/pages/home.html': (isTyped ? typedHead : '<meta (takes entries, entryForm)>\n') + home,
    'templates/pages/about.html': about,
    'templates/partials/log-entry.html': `<meta ${typed('(import { Entry } from "../../log.ts") ')}(takes entry${typed(': Entry')})>
${entry}`,
    'templates/partials/log-entry.samples.json': samples,
    [`tests/app.test.${script}`]: tests(script),
  };
}

const tsconfig = `{
  "compilerOptions": {
    "strict": true,
    "target": "es2023",
    "module": "nodenext",
    "types": ["node"],
    "allowImportingTsExtensions": true,
    "skipLibCheck": true,
    "noEmit": true
  },
  "include": ["."]
}
`;

function readme({ name, isTyped }: StarterSettings): string {
  const script = isTyped ? 'ts' : 'js';
  return `# ${name}

\`\`\`sh
npm install
npm run dev      # http://localhost:3000/
npm test
npm run check    # templates${isTyped ? ' and types' : ''}
\`\`\`

| | |
|---|---|
| \`templates/pages\` | a template for each page |
| \`templates/layouts\` | what is around them |
| \`templates/partials\` | what they call: \`<log-entry entry=\${entry}>\` |
| \`app.${script}\` | what answers each URL |
| \`forms.${script}\` | forms: what they take, and how they are shown |
| \`log.${script}\` | what was written, until a database takes its place |
| \`public\` | files that are served as they are |

In production, \`npm start\` takes \`SECRET\` from the environment: a long random text that seals forms.
`;
}

function configuration(isTyped: boolean): string {
  return `${isTyped ? "import type { LoomOptions } from 'zip-loom';\n\n" : ''}/** How the templates are put together; the command line reads this file too. */
export default {
  templates: new URL('./templates/', import.meta.url),
  layouts: { '**': 'site-layout' },
  assets: new URL('./public/', import.meta.url),
  locale: 'en-GB',
  timeZone: 'UTC',
}${isTyped ? ' satisfies LoomOptions' : ''};
`;
}

function log(typed: (text: string) => string): string {
  return `/** What was written into the log. It is forgotten when the program ends: a database is yours to choose. */
${typed(`export interface Entry {
  id: number;
  boat: string;
  remark?: string | undefined;
  /** ISO 8601. */
  at: string;
}

`)}const entries${typed(': Entry[]')} = [{ id: 1, boat: 'Quiet Tern', remark: 'Came in at high water.', at: '2026-06-12T13:20:00Z' }];

/** The latest first. */
export function latestEntries()${typed(': Entry[]')} {
  return entries.toReversed();
}

export function addEntry(values${typed(": Pick<Entry, 'boat' | 'remark'>")})${typed(': void')} {
  entries.push({ ...values, id: entries.length + 1, at: new Date().toISOString() });
}
`;
}

function forms(typed: (text: string) => string): string {
  return `/** Forms: one definition each for the page, the checks and the reading. */
import { defineForm${typed(', type FormViewOf')} } from 'zip-loom/forms';
import { z } from 'zod';

export const entryForm = defineForm(
  'entry',
  z.object({
    boat: z.string().min(2, 'A boat’s name has at least two letters.').max(40),
    remark: z.string().max(200).optional(),
  }),
  { labels: { boat: 'Boat', remark: 'Remark' }, kinds: { remark: 'long-text' } },
);
${typed(`
/** What templates take. */
export type EntryForm = FormViewOf<typeof entryForm>;
`)}`;
}

function tests(script: string): string {
  return `/** The pages, as a visitor without JavaScript has them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { submit, visit } from 'zip-loom/testing';
import { createApp } from '../app.${script}';

const app = await createApp('development');

test('an entry is written into the log', async () => {
  const page = await submit(app, '/', { boat: 'Salt Plover', remark: 'Two nights.' });
  assert.deepEqual(page.messages, ['Salt Plover is in the log.']);
  assert.ok(page.texts('li').some((text) => text.startsWith('Salt Plover')));
});

test('what cannot be taken is shown again, with the reason', async () => {
  const page = await submit(app, '/', { boat: 'S', remark: 'Two nights.' });
  assert.equal(page.status, 422);
  assert.deepEqual(page.errors('boat'), ['A boat’s name has at least two letters.']);
  assert.equal(page.value('remark'), 'Two nights.');
});

test('every page has its own title', async () => {
  assert.equal((await visit(app, '/about')).title, 'About · The log');
});
`;
}
