/** Commands that were called wrongly: exit code 2. */
import { catalogue, sentence, worded } from 'zip-loom/internal/diagnostics';

const wordings = {
  'unreadable-data': worded<{ file: string; reason: string }>({
    message: ({ file, reason }) => `The data file ${file} cannot be read: ${reason}.`,
    hint: () => 'Check its path, or use - for standard input.',
    examples: [{ file: 'data.json', reason: 'ENOENT' }],
  }),
  'invalid-data': worded<{ file: string; reason: string | undefined }>({
    message: ({ file, reason }) =>
      reason === undefined ? `The data in ${file} is not an object.` : `The data in ${file} is not JSON: ${reason}.`,
    hint: () => 'Give an object of names and values, such as {"berths": []}.',
    examples: [
      { file: 'data.json', reason: 'Unexpected end of JSON input' },
      { file: 'data.json', reason: undefined },
    ],
  }),
  'unknown-file': worded<{ file: string }>({
    message: ({ file }) => `${file} is not a template of this project, and no folder of any.`,
    hint: () => 'Give the path of a file or a folder below the templates folder.',
    examples: [{ file: 'notes.html' }],
  }),
  'unreadable-folder': worded<{ folder: string; reason: string }>({
    message: ({ folder, reason }) => `The folder ${folder} cannot be read: ${reason}.`,
    hint: () => 'Give the path of a folder with HTML files.',
    examples: [{ folder: 'pages', reason: 'ENOENT' }],
  }),
  'empty-folder': worded<{ folder: string }>({
    message: ({ folder }) => `There is no HTML file in ${folder}, nor in any folder of it.`,
    hint: () => 'Give the folder in which the pages are.',
    examples: [{ folder: 'assets' }],
  }),
  'invalid-number': worded<{ option: string; value: string }>({
    message: ({ option, value }) => `${option} takes a number of bytes, not “${value}”.`,
    hint: ({ option }) => `Write it in digits, as in ${option} 500.`,
    examples: [{ option: '--min', value: 'much' }],
  }),
  'text-not-found': worded<{ text: string }>({
    message: ({ text }) => `“${text}” is not in the page.`,
    hint: () => 'Give it as it is in the HTML, where & is &amp;, and look at the page with “zip-loom render”.',
    examples: [{ text: 'Free now' }],
  }),
  'refused-site': worded<{ folder: string }>({
    message: ({ folder }) => `${folder} holds files that are no site of ours.`,
    hint: () => 'Choose an empty folder, or write into this one with --force.',
    examples: [{ folder: 'site' }],
  }),
  'missing-page': sentence(
    'Nobody has said which page is to be rendered.',
    'Name one, as in “zip-loom render about”, or write all of them with “zip-loom render --all --out site”.',
  ),
  'missing-out': sentence(
    '--all writes many files, and nobody has said where.',
    'Name a folder, as in “zip-loom render --all --out site”.',
  ),
  'invalid-part-name': worded<{ kind: string; name: string; example: string }>({
    message: ({ kind, name }) =>
      name === '' ? `The new ${kind} needs a name.` : `“${name}” cannot be the name of a ${kind}.`,
    hint: ({ kind, example }) =>
      `Choose one such as ${example}${kind === 'partial' ? ': with a hyphen, as a custom element’s' : ''}.`,
    examples: [
      { kind: 'partial', name: 'card', example: 'berth-card' },
      { kind: 'page', name: '', example: 'berths/list' },
    ],
  }),
  'unknown-kind': worded<{ kind: string }>({
    message: ({ kind }) => `“${kind}” is not a kind of part.`,
    hint: ({ kind }) =>
      `Name a page, a partial, a layout or a form, as in “zip-loom new page about”. A new site is written by: npm create zip-loom ${/^[\w.-]+$/.test(kind) ? kind : 'my-site'}`,
    examples: [{ kind: 'model' }],
  }),
  'invalid-port': worded<{ value: string }>({
    message: ({ value }) => `“${value}” is no port.`,
    hint: () => 'Give a number up to 65535, as in --port 4000; 0 takes one that is free.',
    examples: [{ value: 'much' }],
  }),
  'closed-port': worded<{ port: string; reason: string }>({
    message: ({ port, reason }) => `Port ${port} cannot be opened: ${reason}.`,
    hint: () => 'Choose another one with --port.',
    examples: [{ port: '4000', reason: 'listen EADDRINUSE: address already in use 127.0.0.1:4000' }],
  }),
  'ambiguous-layout': sentence(
    'This template would not say the same if it were laid out, so it is left as it is.',
    'Lay it out by hand, and please report it: this should not happen.',
  ),
  'changed-page': worded<{ page: string }>({
    message: ({ page }) => `The page ${page} would be shown otherwise, so nothing was written.`,
    hint: () => 'Lay out the templates of other pages by their names, and please report it: this should not happen.',
    examples: [{ page: 'berths/list' }],
  }),
  'existing-file': worded<{ file: string }>({
    message: ({ file }) => `${file} is there already.`,
    hint: () => 'Choose another name, or write over it with --force.',
    examples: [{ file: 'repeats.html' }],
  }),
  'refused-templates': worded<{ folder: string }>({
    message: ({ folder }) => `${folder} holds templates already.`,
    hint: () => 'Choose another project with --out, or write over them with --force.',
    examples: [{ folder: 'templates' }],
  }),
  'invalid-templates': worded<{ count: number; place: string }>({
    message: ({ count, place }) =>
      `The templates have ${count === 1 ? 'a problem' : `${count} problems`}, the first in ${place}.`,
    hint: () => 'Repair what “zip-loom check” tells first.',
    examples: [{ count: 2, place: 'templates/pages/home.html:3' }],
  }),
  'invalid-lines': worded<{ place: string }>({
    message: ({ place }) => `“${place}” names no lines of a file.`,
    hint: () => 'Write the file, the first line and the last, as in templates/pages/home.html:15-19.',
    examples: [{ place: 'templates/pages/home.html' }],
  }),
  'refused-selection': worded<{ place: string }>({
    message: ({ place }) => `${place} cannot be a partial of its own.`,
    hint: () =>
      'Choose whole elements of one parent, without slots, fills of slots, or an (else …) whose (if …) stays behind.',
    examples: [{ place: 'templates/pages/home.html:15-19' }],
  }),
  'unknown-near-miss': worded<{ name: string; known: readonly string[] }>({
    message: ({ name }) => `“${name}” is no text that nearly all pages have the same.`,
    hint: ({ known }) =>
      known.length === 0
        ? 'There is none in these pages.'
        : `Look at the plan, of --dry-run. Others: ${known.join(', ')}.`,
    examples: [
      { name: 'year', known: [] },
      { name: 'year', known: ['site-footer'] },
    ],
  }),
  'unknown-sample': worded<{ page: string; name: string; known: readonly string[] }>({
    message: ({ page, name }) => `The page “${page}” has no sample “${name}”.`,
    hint: ({ known, page }) =>
      known.length === 0
        ? `Write samples beside it, in ${page.split('/').at(-1)}.samples.json.`
        : `It has ${known.map((one) => `“${one}”`).join(', ')}.`,
    examples: [
      { page: 'berths/list', name: 'full', known: [] },
      { page: 'berths/list', name: 'full', known: ['usual', 'empty'] },
    ],
  }),
  'unknown-revision': worded<{ revision: string; reason: string }>({
    message: ({ revision, reason }) => `The templates of ${revision} cannot be read: ${reason}.`,
    hint: () => 'Name a revision of git, such as HEAD or main, or give two folders.',
    examples: [{ revision: 'HEAD~1', reason: 'not a git repository' }],
  }),
  'missing-record': worded<{ file: string }>({
    message: ({ file }) => `${file} is not there: nothing was adopted into this project yet.`,
    hint: () => 'Adopt the pages without --again first, or name the project with --out.',
    examples: [{ file: 'adopted.json' }],
  }),
  'invalid-record': worded<{ file: string; reason: string }>({
    message: ({ file, reason }) => `${file} cannot be read: ${reason}.`,
    hint: () => 'Repair it, or take it away and adopt the pages anew with --force.',
    examples: [{ file: 'adopted.json', reason: 'Unexpected token' }],
  }),
  'duplicate-page': worded<{ path: string }>({
    message: ({ path }) => `There are two pages ${path}, one .html and one .htm.`,
    hint: () => 'Take one of them away.',
    examples: [{ path: 'about' }],
  }),
  'invalid-samples': worded<{ file: string; reason: string }>({
    message: ({ file, reason }) => `The sample data in ${file} cannot be used: ${reason}.`,
    hint: () =>
      'Beside list.html, list.samples.json is an object of named samples: {"usual": {"berths": []}}; list.samples.ts exports it as “samples”.',
    examples: [{ file: 'templates/pages/list.samples.json', reason: 'it has no sample' }],
  }),
};

export const commandDiagnostic = catalogue(wordings);
