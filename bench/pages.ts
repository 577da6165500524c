/** Whole pages: with a layout, the harbour’s list of berths, a bound form; each beside the same page written by hand. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { createHelpers, text as escapeText } from 'zip-loom/runtime';
import { z } from 'zod';
import type { SamePage } from './support/same-page.ts';

export async function pageComparisons(): Promise<SamePage[]> {
  return [await pageWithLayout(), await berthList(), await boundForm()];
}

/** An article of some length with a layout of two levels, a navigation and a list. */
async function pageWithLayout(): Promise<SamePage> {
  const paragraphs = Array.from(
    { length: 30 },
    (_, index) => `Paragraph ${index}: the tide turns at the rocks & boats swing round; "mind the sill".`,
  );
  const links = Array.from({ length: 8 }, (_, index) => ({ id: `part-${index}`, text: `Part ${index}` }));
  const loom = await createLoom({
    layouts: { '**': 'site-layout' },
    sources: {
      'layouts/base-layout.html':
        '<!doctype html>\n<html lang="en">\n<head><slot name="title"><title>Harbour</title></slot></head>\n<body>\n<slot></slot>\n</body>\n</html>\n',
      'layouts/site-layout.html':
        '<meta (layout base-layout)>\n<header><slot name="nav"></slot></header>\n<main><slot></slot></main>\n<footer>Channel 80</footer>\n',
      'partials/nav-link.html':
        '<meta (takes id, here = false)>\n<a href="/site/${id}" class=${here && \'here\'}><slot></slot></a>\n',
      'pages/article.html': `<meta (takes title, paragraphs, links)>
<title slot="title">\${title}</title>
<nav slot="nav"><nav-link (for link, index of links) id=\${link.id} here=\${index === 2}>\${link.text}</nav-link></nav>
<h1>\${title}</h1>
<p (for paragraph of paragraphs)>\${paragraph}</p>
`,
    },
  });
  const data = { title: 'Tides & rocks', paragraphs, links };
  const bare = () => {
    let out = `<!doctype html>\n<html lang="en">\n<head><title>${escapeText(data.title)}</title></head>\n<body>\n<header><nav>`;
    for (const [index, link] of data.links.entries())
      out += `<a href="/site/${escapeText(encodeURIComponent(link.id))}"${index === 2 ? ' class="here"' : ''}>${escapeText(link.text)}</a>`;
    out += `</nav></header>\n<main><h1>${escapeText(data.title)}</h1>`;
    for (const paragraph of data.paragraphs) out += `\n<p>${escapeText(paragraph)}</p>`;
    return `${out}</main>\n<footer>Channel 80</footer>\n</body>\n</html>\n`;
  };
  return { name: 'a page with a layout', goal: 1.1, work: () => loom.renderSync('article', data), bare };
}

/** The harbour’s own templates; by hand what they print, with the same helpers and the same completed controls. */
async function berthList(): Promise<SamePage> {
  const folder = 'examples/harbour/templates';
  const paths = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((path) => path.endsWith('.html'));
  const sources = Object.fromEntries(paths.map((path) => [path, readFileSync(join(folder, path), 'utf8')]));
  const loom = await createLoom({
    sources,
    layouts: { '**': 'site-layout', 'staff/**': 'staff-layout' },
    locale: 'en-GB',
    timeZone: 'Europe/London',
    secret: 'a secret for measuring alone',
    helpers: { nights: () => 1 },
  });
  const search = defineForm(
    'search',
    z.object({ q: z.string().max(40).optional(), length: z.number().min(2).max(60).optional(), free: z.boolean() }),
  );
  const berths = Array.from({ length: 12 }, (_, id) => ({
    id,
    pontoon: 'A',
    name: `A${id}`,
    length: 6 + id / 2,
    depth: 1.5 + (id % 4) / 4,
    nightly: 1400 + id * 50,
    power: true,
    water: true,
    free: id % 3 === 0,
    freeFrom: id % 3 === 0 ? undefined : '2026-06-14',
  }));
  const context = { url: new URL('http://harbour.test/berths') };
  const data = () => ({ berths, searchForm: search.blank(), total: 72, page: 1, pages: 6 });
  const work = () => loom.renderSync('berths/list', data(), { context });
  const helpers = createHelpers({ locale: 'en-GB', timeZone: 'Europe/London' });
  // What depends on no value is fixed text by hand, the search form with its empty fields too.
  const dynamic =
    /72 berths|\n {2}<li><article[\s\S]*<\/article><\/li>|(?<=rel="next" href=")[^"]*|(?<=Page )\d+|(?<=of )\d+(?=<)/;
  const [start = '', middle = '', page = '', pages = '', next = '', end = ''] = work().split(dynamic);
  const bare = () => {
    const { total, page: current, pages: most } = data();
    let out = start + escapeText(helpers.plural(total, 'berth', 'berths')) + middle;
    for (const berth of berths) {
      const { free } = berth;
      const state = free
        ? 'Free now'
        : berth.freeFrom
          ? `Free from ${escapeText(helpers.date(berth.freeFrom, 'medium'))}`
          : 'Taken';
      out += `\n  <li><article class="card${free ? ' is-free' : ''}">\n  <h2><a href="/berths/${escapeText(encodeURIComponent(String(berth.id)))}">Berth ${escapeText(berth.name)}</a></h2>\n  <p class="state">${state}</p>\n  <dl>\n    <div><dt>Length</dt><dd>${escapeText(helpers.number(berth.length))} m</dd></div>\n    <div><dt>Depth</dt><dd>${escapeText(helpers.number(berth.depth))} m</dd></div>\n    <div><dt>Per night</dt><dd>${escapeText(helpers.money(berth.nightly / 100, 'GBP'))}</dd></div>\n  </dl>\n</article></li>`;
    }
    out += page + escapeText(String(current)) + pages + escapeText(String(most)) + next;
    return out + escapeText(helpers.withQuery(context.url, { page: current + 1 })) + end;
  };
  return { name: 'the harbour’s list of berths', goal: 1.1, work, bare };
}

/** 30 labelled controls that show a model. */
export async function boundForm(): Promise<SamePage> {
  const names = Array.from({ length: 30 }, (_, index) => `field${index + 1}`);
  const isNumber = (index: number) => index % 5 === 4;
  const form = defineForm(
    'thirty',
    z.object(
      Object.fromEntries(
        names.map((name, index) => [name, isNumber(index) ? z.number().min(0).max(100) : z.string().max(40)]),
      ),
    ),
  );
  const model = Object.fromEntries(
    names.map((name, index) => [name, isNumber(index) ? index : `value ${index} & more`]),
  );
  const fields = names.map(
    (name) =>
      `  <p><label for="${name}">${name}</label> <input name="${name}"></p>\n  <p class="wrong" (errors ${name})></p>\n`,
  );
  const loom = await createLoom({
    sources: {
      'pages/form.html': `<meta (takes form)>\n<form action="/save" method="post" (bind form)>\n${fields.join('')}<button>Save</button></form>\n`,
    },
    secret: 'a secret for measuring alone',
  });
  const starts = names.map((name, index) => {
    const own = isNumber(index) ? 'type="number"' : 'type="text"';
    const limits = isNumber(index) ? 'min="0" max="100" step="any"' : 'maxlength="40"';
    return `  <p><label for="thirty-${name}">${name}</label> <input name="${name}" ${own} id="thirty-${name}" required ${limits}`;
  });
  const bare = () => {
    let out = '<form action="/save" method="post">\n';
    for (let index = 0; index < names.length; index++) {
      const value = String(model[names[index]!] ?? '');
      out += `${starts[index]}${value === '' ? '' : ` value="${escapeText(value)}"`}></p>\n`;
    }
    return `${out}<button>Save</button></form>\n`;
  };
  return {
    name: 'a bound form of 30 fields',
    goal: 1.5,
    work: () => loom.renderSync('form', { form: form.from(model) }),
    bare,
  };
}
