/** Folded lists of digests, by a client that is written here: what is told of buckets, what is sent, and what the answer tells. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';

const sources = {
  'pages/list.html':
    '<meta (takes rows, heading = "H")><html><body><h1>${heading}</h1><table (region table)><tr (for row of rows) (region row-${row.id})><td>${row.text}</td></tr></table><p (region beside)>x</p></body></html>',
};

interface Row {
  id: number;
  text: string;
}

const rowsFrom = (count: number): Row[] => Array.from({ length: count }, (_, at) => ({ id: at, text: `row ${at}` }));

/** A finalizer of 32 bits. */
const mix = (value: number) => {
  const once = Math.imul(value ^ (value >>> 16), 0x7feb352d);
  const twice = Math.imul(once ^ (once >>> 15), 0x846ca68b);
  return twice ^ (twice >>> 16);
};
const hash = (text: string, seed: number) =>
  [...text].reduce((state, letter) => mix(Math.imul(state ^ letter.charCodeAt(0), 0x01000193)), seed);
const bucketOf = (name: string, count: number) => (hash(name, 0x9e3779b1) >>> 0) % count;

/** What the buckets of a list hold: sums of two hashes, in eight characters of base64url. */
function fold(entries: ReadonlyArray<readonly [string, string]>, count: number): string {
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
  const write = (bits: number, length: number) =>
    Array.from({ length }, (_, at) => letters[(bits >>> (6 * at)) & 63]).join('');
  const buckets = Array.from({ length: count }, (_, bucket) => {
    const inside = entries.filter(([name]) => bucketOf(name, count) === bucket).map((entry) => entry.join('='));
    const sum = (seed: number) => mix(inside.reduce((total, text) => (total + hash(text, seed)) | 0, 0));
    return write(sum(0x85ebca77), 5) + write(sum(0xc2b2ae3d), 3);
  });
  return `${count}:${buckets.join(',')}`;
}

let loom: Loom;
beforeAll(async () => {
  loom = await createLoom({ sources, logger: quietLogger });
});

const listIn = (text: string) =>
  (/data-loom-digests="([^"]*)"/.exec(text)?.[1] ?? '')
    .split(', ')
    .map((entry) => entry.split('=') as [string, string]);

/** The digests of the page as the browser has it. */
async function had(rows: readonly Row[]) {
  const request = new Request('http://harbour.test/', { headers: { cookie: 'loom-client=1' } });
  return listIn(await (await loom.respond(request, 'list', { rows })).text());
}

async function asks(list: string, data: object) {
  const headers = { 'loom-region': 'beside', 'loom-page': 'list', 'loom-digests': list };
  const text = await (await loom.respond(new Request('http://harbour.test/', { headers }), 'list', data)).text();
  return {
    text,
    sent: [...text.matchAll(/merge-into="([^"]+)"/g)].map(([, name]) => name!),
    told: listIn(text).map(([name]) => name),
    list: new Map(listIn(text)),
  };
}

const isRow = ([name]: readonly [string, string]) => name.startsWith('row-');
const inTable = async (rows: readonly Row[], count = 4) => {
  const entries = await had(rows);
  const own = Object.fromEntries(entries);
  return `page=${own['page']}, table=${own['table']}/${fold(entries.filter(isRow), count)}, beside=${own['beside']}`;
};

describe('folded in a region', () => {
  const rows = rowsFrom(40);
  const mates = (name: string) =>
    rows.map(({ id }) => `row-${id}`).filter((one) => bucketOf(one, 4) === bucketOf(name, 4));

  test('nothing is sent where nothing differs, and nothing of the rows is told', async () => {
    const { sent, told, list } = await asks(await inTable(rows), { rows });
    expect([sent, told]).toEqual([[], ['page', 'table', 'beside']]);
    expect(list.get('table')).toMatch(/^[\w-]{8}\/4$/);
  });

  test('a changed row brings those of its bucket alone', async () => {
    const changed = rows.map((row) => (row.id === 7 ? { ...row, text: 'changed' } : row));
    const { sent, told } = await asks(await inTable(rows), { rows: changed });
    expect(sent).toEqual(mates('row-7'));
    expect(told).toEqual(['page', 'table', ...mates('row-7'), 'beside']);
    expect(sent.length).toBeLessThan(20);
  });

  test('a new row brings the region with stubs, and moves nothing between buckets', async () => {
    const { sent, text } = await asks(await inTable(rows), { rows: [...rows, { id: 99, text: 'new' }] });
    expect(sent).toEqual(['table']);
    const whole = [...text.matchAll(/data-loom-region="(row-\d+)"(?! data-loom-kept)/g)].map(([, name]) => name);
    expect(whole).toEqual([...mates('row-99'), 'row-99']);
  });

  test('what the browser has of no digest is sent, with its bucket', async () => {
    const entries = (await had(rows)).filter(([name]) => name !== 'row-3');
    const own = Object.fromEntries(entries);
    const list = `page=${own['page']}, table=${own['table']}/${fold(entries.filter(isRow), 4)}, beside=${own['beside']}`;
    expect((await asks(list, { rows })).sent).toEqual(mates('row-3'));
    expect((await asks(list.replace(/table=[\w-]{8}/, 'table='), { rows })).sent).toEqual(['table']);
  });
});

test('folded as a whole: all is in the page', async () => {
  const rows = rowsFrom(20);
  const entries = await had(rows);
  const [[, page]] = entries as [[string, string]];
  const list = `page=${page}/${fold(entries.slice(1), 2)}`;
  expect(await asks(list, { rows })).toMatchObject({ sent: [], told: ['page'] });
  const changed = rows.map((row) => (row.id === 1 ? { ...row, text: 'changed' } : row));
  expect((await asks(list, { rows: changed })).text).toContain('<td>changed</td>');
  expect((await asks(list, { rows, heading: 'Changed' })).sent).toEqual(['page']);
});
