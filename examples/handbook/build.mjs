/**
 * Makes templates of the chapters in `docs`, beside those of this folder, an index for the search, and with Vite the style sheet and the
 * script; then `zip-loom render --all` makes the site of them.
 */
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';
import { parts } from './chapters.mjs';
import { readChapter } from './markdown.mjs';

const here = dirname(fileURLToPath(import.meta.url));
const docs = join(here, '../../docs');
const out = resolve(process.argv[2] ?? join(here, '../../build/handbook'));
const names = parts.flatMap(({ chapters }) => chapters);

rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, 'public'), { recursive: true });
cpSync(join(here, 'templates'), join(out, 'templates'), { recursive: true });
cpSync(join(docs, 'screenshots'), join(out, 'public/screenshots'), { recursive: true });

const chapters = names.map((name) => readChapter(name, readFileSync(join(docs, `${name}.md`), 'utf8'), names));
for (const [at, chapter] of chapters.entries()) {
  const file = join(out, 'templates/pages', `${chapter.name}.html`);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, templateOf(chapter, chapters[at - 1], chapters[at + 1]));
}

const index = chapters.flatMap(({ sections }) => sections);
writeFileSync(join(out, 'public/search.json'), JSON.stringify(index));
await build({
  root: join(here, 'client'),
  logLevel: 'warn',
  publicDir: false,
  build: {
    outDir: join(out, 'files'),
    emptyOutDir: true,
    manifest: true,
    rollupOptions: { input: [join(here, 'client/handbook.css'), join(here, 'client/search.js')] },
  },
});

/** What comes behind a colon is for the chapter itself. */
const shortTitle = (name) => chapters.find((one) => one.name === name).title.split(':')[0];
const shown = parts.map(({ title, chapters: own }) => ({
  title,
  chapters: own.map((name) => ({ name, title: shortTitle(name) })),
}));
writeFileSync(
  join(out, 'zip-loom.config.mjs'),
  `const parts = ${JSON.stringify(shown)};
const here = (path) => new URL(path, import.meta.url);
export default {
  layouts: { '**': 'handbook-layout' },
  assets: { folder: here('./public/'), manifest: here('./files/.vite/manifest.json') },
  helpers: { chapters: () => parts },
};
`,
);
console.log(`${chapters.length} chapters, ${index.length} sections in the index of the search.`);

function templateOf({ title, html, headings }, before, after) {
  const neighbour = (one) => (one ? `{ name: '${one.name}', title: ${JSON.stringify(one.title)} }` : 'null');
  const list = headings.map(({ id, html: heading }) => `<li><a href="#${id}">${heading}</a></li>`).join('');
  return `<meta (layout chapter-layout before=\${${neighbour(before)}} after=\${${neighbour(after)}})>
<template slot="title">${plain(title.replaceAll('<', '&lt;'))}</template>
<template slot="contents"><ul>${plain(list)}</ul></template>
${plain(html)}`;
}

/** Text of documents is no template. */
function plain(html) {
  return html.replaceAll('${', '&#36;{');
}
