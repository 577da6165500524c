/**
 * Makes templates of the chapters in `docs`, beside those of this folder, and an index for the search; then
 * `zip-loom render --all` makes the site of them.
 */
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Marked } from 'marked';
import { parts } from './chapters.mjs';

const here = dirname(fileURLToPath(import.meta.url));
const docs = join(here, '../../docs');
const out = process.argv[2] ?? join(here, '../../build/handbook');
const names = parts.flatMap(({ chapters }) => chapters);

rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, 'public'), { recursive: true });
cpSync(join(here, 'templates'), join(out, 'templates'), { recursive: true });
cpSync(join(here, 'public'), join(out, 'public'), { recursive: true });
cpSync(join(docs, 'screenshots'), join(out, 'public/screenshots'), { recursive: true });

/** The parts of a chapter, as hosts of code name them. */
const slug = (text) =>
  text
    .toLowerCase()
    .replace(/<[^>]*>|&[a-z#0-9]+;/g, '')
    .replace(/[^\p{L}\p{N}\s_-]/gu, '')
    .trim()
    .replace(/\s/g, '-');

/** Links between chapters lead to pages, those to other files of the repository nowhere in the site. */
function siteURL(url) {
  if (/^[a-z]+:|^#/.test(url)) return url;
  const [, chapter, part = ''] = /^([a-z-]+)\.md(#.*)?$/.exec(url) ?? [];
  if (chapter !== undefined && names.includes(chapter)) return `/${chapter}${part}`;
  return url.startsWith('screenshots/') ? `/${url}` : undefined;
}

const index = [];
const chapters = names.map((name) => {
  const text = readFileSync(join(docs, `${name}.md`), 'utf8');
  const headings = [];
  const marked = new Marked({
    renderer: {
      heading({ tokens, depth, text: source }) {
        const html = this.parser.parseInline(tokens);
        const id = slug(source.replaceAll('`', ''));
        if (depth === 2) headings.push({ id, html });
        return `<h${depth} id="${id}">${html}</h${depth}>\n`;
      },
      link({ href, tokens }) {
        const html = this.parser.parseInline(tokens);
        const url = siteURL(href);
        return url === undefined ? html : `<a href="${url}">${html}</a>`;
      },
      image({ href, text: alt }) {
        return `<img src="${siteURL(href)}" alt="${alt.replaceAll('"', '&quot;')}" loading="lazy">`;
      },
      table(token) {
        const row = (cells, tag) =>
          `<tr>${cells.map((cell) => `<${tag}>${this.parser.parseInline(cell.tokens)}</${tag}>`).join('')}</tr>\n`;
        const head = token.header.some((cell) => cell.text !== '') ? `<thead>${row(token.header, 'th')}</thead>\n` : '';
        return `<div class="scroll" tabindex="0" role="group" aria-label="Table"><table>\n${head}<tbody>\n${token.rows.map((cells) => row(cells, 'td')).join('')}</tbody></table></div>\n`;
      },
    },
  });
  const html = marked.parse(text);
  const title = /^# (.*)$/m.exec(text)[1].replaceAll('`', '');
  for (const section of text.split(/^(?=##? )/m)) {
    const [first = '', ...rest] = section.split('\n');
    const heading = first.replace(/^#+ /, '').replaceAll('`', '');
    const words = rest
      .join(' ')
      .replace(/```[\s\S]*?```|[`*|\]()[_#]/g, ' ')
      .replace(/\s+/g, ' ')
      .trim();
    index.push({
      url: first.startsWith('## ') ? `/${name}#${slug(heading)}` : `/${name}`,
      title,
      heading,
      words: words.slice(0, 1500),
    });
  }
  return { name, title, html, headings };
});

/** Text of documents is no template. */
const plain = (html) => html.replaceAll('${', '&#36;{');

for (const [at, { name, title, html, headings }] of chapters.entries()) {
  const [before, after] = [chapters[at - 1], chapters[at + 1]];
  const quoted = (one) => `{ name: '${one.name}', title: ${JSON.stringify(one.title)} }`;
  const list = headings.map(({ id, html: heading }) => `<li><a href="#${id}">${heading}</a></li>`).join('');
  writeFileSync(
    join(out, 'templates/pages', `${name}.html`),
    `<meta (layout chapter-layout before=\${${before ? quoted(before) : 'null'}} after=\${${after ? quoted(after) : 'null'}})>
<template slot="title">${plain(title.replaceAll('<', '&lt;'))}</template>
<template slot="contents"><ul>${plain(list)}</ul></template>
${plain(html)}`,
  );
}
writeFileSync(join(out, 'public/search.json'), JSON.stringify(index));
const shown = parts.map(({ title, chapters: own }) => ({
  title,
  chapters: own.map((name) => ({ name, title: chapters.find((one) => one.name === name).title })),
}));
writeFileSync(
  join(out, 'zip-loom.config.mjs'),
  `const parts = ${JSON.stringify(shown)};\nexport default { layouts: { '**': 'handbook-layout' }, assets: new URL('./public/', import.meta.url), helpers: { chapters: () => parts } };\n`,
);
console.log(`${chapters.length} chapters, ${index.length} sections in the index of the search.`);
