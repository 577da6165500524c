/** Tampered submissions of honest forms: steps, rows and receipts of files; and changes by name with nasty markup in them. */
import { parse } from 'parse5';
import { type Exchange, put } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import type { Random } from '../../examples/harbour/data/random.ts';
import { type Visitor, visitor } from '../support/exchanges.ts';
import { multipartBody, multipartType, png, type WrittenPart } from '../support/multipart.ts';
import { nastyValue } from './data.ts';

type Fields = Array<[string, string]>;

const row = z.object({ name: z.string(), rank: z.string().optional() });
const steps = defineForm(
  'stay',
  z.object({
    from: z.string(),
    role: z.string().optional(),
    crew: z.array(row).optional(),
    note: z.string().optional(),
  }),
).steps([
  { name: 'dates', fields: ['from', 'role'] },
  { name: 'crew', fields: ['crew'] },
  { name: 'terms', fields: ['note'] },
]);
const list = defineForm('boat', z.object({ crew: z.array(row) }));
const model = { crew: ['captain', 'mate', 'hand'].map((rank, at) => ({ name: `n${at}`, rank })) };
const file = defineForm(
  'papers',
  z.object({ name: z.string().min(2), deed: z.file().optional(), plan: z.file().optional() }),
);
const otherFile = defineForm('other', z.object({ deed: z.file().optional() }));

const sources = {
  'pages/steps.html': `<meta (takes form)><form (bind form) method="post"><input (if form.step?.name === 'dates') name="from">
<template (if form.step?.name === 'crew')><p (for _, i of form.items('crew'))><input name="crew[\${i}].name"></p></template>
<input (if form.step?.name === 'terms') name="note"></form>`,
  'pages/list.html':
    '<meta (takes form)><form (bind form) method="post"><p (for _, i of form.items("crew"))><input name="crew[${i}].name"></p></form>',
  'pages/file.html':
    '<meta (takes form)><form (bind form) method="post"><input name="name"><input name="deed"><input name="plan"></form>',
  'partials/nasty-row.html':
    '<meta (takes a, b)><tr id="row-${b}" (region row-x)><td title=${a}>${b}</td><td><a href=${a}>x</a></td></tr>',
};

let made: Promise<Visitor> | undefined;
/** One loom for all cases; each has a visitor without cookies. */
async function newVisitor(): Promise<Visitor> {
  made ??= visitor(sources);
  const ada = await made;
  ada.cookies.clear();
  ada.hidden = {};
  return ada;
}
const show = (page: string, form: unknown) => (exchange: Exchange) => exchange.respond(page, { form });

const names = [
  'role',
  'crew[0].rank',
  'crew[].rank',
  'crew[7].name',
  'crew[]',
  'crew',
  'from',
  'note',
  'loom-all',
  '__proto__.x',
];
const values = ['evil', 'true', '', '2,1,0', '0,0,0', '+', 'crew[].rank', 'crew[0]'];
const extras = (random: Random): Fields =>
  Array.from({ length: random.between(0, 4) }, () => [random.pick(names), random.pick(values)]);

/** A complaint if anything becomes a value, or is signed, that no page offered. */
export async function trySteps(random: Random): Promise<string | undefined> {
  const ada = await newVisitor();
  await ada.page(show('steps', steps.blank()));
  const old: Array<Record<string, string>> = [];
  const moves: string[] = [];
  for (let move = 0; move < 7; move++) {
    old.push({ ...ada.hidden });
    const before = random.pick(old);
    const trick = random.pick(['none', 'none', 'token', 'state', 'stale', 'list', 'missing', 'again']);
    if (trick === 'token') ada.hidden['loom-token'] = 'x'.repeat(44);
    if (trick === 'state') ada.hidden['loom-state'] = flipped(random, ada.hidden['loom-state'] ?? '');
    if (trick === 'stale') ada.hidden['loom-state'] = before['loom-state'] ?? '';
    if (trick === 'list') ada.hidden['loom-form'] = before['loom-form'] ?? '';
    if (trick === 'missing') delete ada.hidden['loom-state'];
    if (trick === 'again') ada.hidden = { ...before };
    const fields: Fields = [['from', 'now'], ['note', 'x'], ...extras(random)];
    moves.push(`${trick} ${JSON.stringify(fields)}`);
    const exchange = await ada.send(fields);
    const sent = await exchange.read(steps);
    const crew = sent.ok ? (sent.value.crew ?? []) : [];
    if (sent.ok && (sent.value.role !== undefined || crew.length > 0)) return `steps: ${moves.join('; ')}`;
    if (sent.ok) return undefined;
    await ada.page(() => exchange.respond('steps', { form: sent }));
  }
  return undefined;
}

/** A complaint if a list without buttons is more than its rows, each with the hidden values of its own item. */
export async function tryRows(random: Random): Promise<string | undefined> {
  const ada = await newVisitor();
  await ada.page(show('list', list.from(model)));
  let fields: Fields = [['crew[]', random.pick(['', '2,1,0', '1', '+,+,+'])], ...extras(random)];
  for (const at of [0, 1, 2]) if (random.chance(0.9)) fields.push([`crew[${at}].name`, `n${at}`]);
  if (random.chance(0.3)) fields.push(['loom-edit', random.pick(['add crew', 'add crew[0]', 'refresh', 'x'])]);
  if (random.chance(0.2)) {
    // A refusal first: nothing of the claims may come back signed.
    const honest = ada.hidden['loom-token'] ?? '';
    ada.hidden['loom-token'] = flipped(random, honest);
    const refused = await ada.send(fields);
    const again = await refused.read(list.from(model));
    const page = await ada.page(() => refused.respond('list', { form: again }));
    // A row that was missing is gone, and those after it have moved up.
    const shown = [...page.matchAll(/name="(crew\[\d+\]\.name)"[^>]* value="([^"]*)"/g)];
    const others = fields.filter(([name]) => !/^crew\[\d\]\.name$/.test(name) || name === 'crew[7].name');
    fields = [...others, ...shown.map(([, name, value]): [string, string] => [name!, value!])];
  }
  const sent = await (await ada.send(fields)).read(list.from(model));
  if (!sent.ok) return undefined;
  const rows = sent.value.crew;
  const isOwn = rows.every(
    ({ name, rank }) =>
      rank === undefined || /^evil|^$/.test(name) || model.crew.some((one) => one.rank === rank && one.name === name),
  );
  return rows.length <= 3 && isOwn ? undefined : `rows: ${JSON.stringify([fields, rows])}`;
}

/** A complaint if a receipt gives its file twice, for another field or form, or after it was changed. */
export async function tryReceipts(random: Random): Promise<string | undefined> {
  const ada = await newVisitor();
  await ada.page(show('file', file.blank()));
  const send = (parts: readonly WrittenPart[]) => {
    const { url, headers } = ada.request('', { headers: { 'content-type': multipartType } });
    const body = multipartBody([...Object.entries(ada.hidden), ...parts]) as BodyInit;
    return ada.loom.exchange(new Request(url, { method: 'POST', headers, body }));
  };
  const first = await send([
    ['name', 'T'],
    ['deed', { name: 'a.png', type: 'image/png', bytes: png }],
  ]);
  const refused = await first.read(file);
  const page = await ada.page(() => first.respond('file', { form: refused }));
  await first.end();
  const receipt = /name="loom-kept" value="([^"]*)"/.exec(page)?.[1] ?? '';
  delete ada.hidden['loom-kept'];
  const isChanged = random.chance(0.3);
  const given = isChanged ? flipped(random, receipt) : receipt;
  const times = random.between(1, 3);
  const tries = await Promise.all(
    Array.from({ length: times }, async () => {
      const exchange = await send([
        ['name', 'Tern'],
        ['loom-kept', given],
        ['loom-kept', given],
      ]);
      const isOther = random.chance(0.2);
      const sent = isOther ? await exchange.read(otherFile, { only: ['deed'] }) : await exchange.read(file);
      const value = sent.ok ? (sent.value as { deed?: unknown; plan?: unknown }) : {};
      await exchange.end();
      return { isOther, deed: value.deed !== undefined, plan: value.plan !== undefined };
    }),
  );
  const got = tries.filter(({ deed }) => deed);
  const isWrong =
    got.length > (isChanged ? 0 : 1) || tries.some(({ isOther, deed, plan }) => plan || (isOther && deed));
  return isWrong ? `receipts: ${JSON.stringify([isChanged, tries])}` : undefined;
}

interface Node {
  nodeName: string;
  attrs?: Array<{ name: string; value: string }>;
  childNodes?: Node[];
  content?: Node;
}

/** A complaint if markup of a change leaves its template, or a handler or a script gets into it. */
export async function tryChanges(random: Random): Promise<string | undefined> {
  const ada = await newVisitor();
  const [a, b] = [nastyValue(random), nastyValue(random)];
  const target = random.pick(['rows', '"><script>', 'a"data-loom-remove="page', "x'y", '<']);
  const headers = { 'loom-region': 'page', 'sec-fetch-site': 'same-origin' };
  const exchange = await ada.loom.exchange(new Request('http://harbour.test/', { method: 'POST', headers }));
  await exchange.verify();
  const response = await exchange.changes([put('nasty-row', { a, b }).atEndOf(target)], { fallback: '/' });
  // A value that cannot be printed is an error.
  if (response.status === 500) return undefined;
  const text = await response.text();
  if (!text.includes('data-loom-put')) return `changes: none in ${text}`;
  const document = parse(text) as unknown as Node;
  const [head, body] = document.childNodes?.find(({ nodeName }) => nodeName === 'html')?.childNodes ?? [];
  const top = [...(head?.childNodes ?? []), ...(body?.childNodes ?? [])].filter(({ attrs }) => attrs);
  const inside = (node: Node): Node[] => [
    node,
    ...[...(node.childNodes ?? []), ...(node.content ? [node.content] : [])].flatMap(inside),
  ];
  const isOurs = top.every(
    ({ nodeName, attrs }) => nodeName === 'template' && attrs!.every(({ name }) => name.startsWith('data-loom-')),
  );
  const isSafe = inside(document).every(
    ({ nodeName, attrs = [] }) => nodeName !== 'script' && attrs.every(({ name }) => !name.startsWith('on')),
  );
  return isOurs && isSafe ? undefined : `changes: ${JSON.stringify([String(a), String(b), target, text])}`;
}

/** The text with one character that is another. */
function flipped(random: Random, text: string): string {
  const at = random.between(0, Math.max(0, text.length - 1));
  return `${text.slice(0, at)}${text[at] === 'A' ? 'B' : 'A'}${text.slice(at + 1)}`;
}
