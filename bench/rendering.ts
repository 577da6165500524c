/** Rendering beside the same pages written by hand as string concatenation, with the same escape function. */
import { createLoom } from 'zip-loom';
import { text as escapeText } from 'zip-loom/runtime';
import type { SamePage } from './support/same-page.ts';

const rows = Array.from({ length: 1000 }, (_, id) => ({
  id,
  name: `Boat ${id} & Co`,
  port: `Port ${id % 17}`,
  length: 5 + (id % 30) / 2,
  sail: id % 3 === 0,
}));
const cards = rows.slice(0, 200);

const table = `<meta (takes rows)>
<table>
  <tr (for row of rows) class=\${row.sail && 'sail'}><td>\${row.id}</td><td>\${row.name}</td><td>\${row.port}</td><td>\${row.length} m</td></tr>
</table>
`;
const card = `<meta (takes name, port)>
<article class="card">
  <h2>\${name}</h2>
  <p>from \${port}</p>
  <slot></slot>
</article>
`;
const page = `<meta (takes cards)>
<div>
  <boat-card (for one of cards) name=\${one.name} port=\${one.port}><b>\${one.length} m</b></boat-card>
</div>
`;

function tableByHand(): string {
  let out = '<table>';
  for (const row of rows) {
    out += `\n  <tr${row.sail ? ' class="sail"' : ''}><td>${escapeText(row.id)}</td><td>${escapeText(row.name)}</td><td>${escapeText(row.port)}</td><td>${escapeText(row.length)} m</td></tr>`;
  }
  return `${out}\n</table>\n`;
}

function cardByHand(name: string, port: string, content: string): string {
  return `<article class="card">\n  <h2>${escapeText(name)}</h2>\n  <p>from ${escapeText(port)}</p>\n  ${content}\n</article>`;
}

function cardsByHand(): string {
  let out = '<div>';
  for (const one of cards) out += `\n  ${cardByHand(one.name, one.port, `<b>${escapeText(one.length)} m</b>`)}`;
  return `${out}\n</div>\n`;
}

export async function renderingComparisons(): Promise<SamePage[]> {
  const loom = await createLoom({
    sources: { 'pages/table.html': table, 'pages/cards.html': page, 'partials/boat-card.html': card },
  });
  const comparisons: SamePage[] = [
    { name: 'a table of 1,000 rows', goal: 1.1, work: () => loom.renderSync('table', { rows }), bare: tableByHand },
    { name: '200 calls with slots', goal: 1.1, work: () => loom.renderSync('cards', { cards }), bare: cardsByHand },
  ];
  return comparisons;
}
