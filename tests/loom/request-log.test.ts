/** What development mode says: which mode it is, and one line for each request. */
import { beforeEach, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomMode } from 'zip-loom';
import { secret } from '../support/settings.ts';

const sources = {
  'pages/list.html':
    '<meta (takes berths = [], late = null)><h1>Bérths</h1><ul (region berths)><li (for b of berths)>${b}</li></ul><p (region beside)>same</p><b (await x = late)>${x}</b>',
  'pages/plain.html': '<p>plain</p>',
  'pages/wrong.html': '<meta (takes berth)>${berth.name}',
};

interface Line {
  details: Record<string, unknown>;
  message: string;
}

let lines: Line[];
beforeEach(() => {
  lines = [];
});

function make(mode: LoomMode): Promise<Loom> {
  const info = (details: object, message: string) => void lines.push({ details: { ...details }, message });
  return createLoom({ sources, secret, mode, logger: { info, warn: () => {}, error: () => {} } });
}

const get = (path: string, headers: Record<string, string> = {}) =>
  new Request(`http://harbour.test${path}`, { headers });
const answers = () => lines.filter(({ details }) => 'method' in details);
const took = expect.any(Number);

test('each mode is said once, with the way to the other where somebody may want that', async () => {
  await make('development');
  await make('production');
  expect(lines.map(({ details, message }) => [details, /NODE_ENV=\w+/.exec(message)?.[0]])).toEqual([
    [{ mode: 'development' }, 'NODE_ENV=production'],
  ]);
});

test('a whole page, also one that is sent while it comes', async () => {
  const loom = await make('development');
  await (await loom.respond(get('/list?a=1'), 'list', { berths: ['A1'] })).text();
  const text = await (await loom.respond(get('/late'), 'list', { late: Promise.resolve('ü') })).text();
  const common = { method: 'GET', status: 200, page: 'list', sent: 'page', milliseconds: took };
  expect(answers().map(({ details }) => details)).toEqual([
    { ...common, path: '/list?a=1', bytes: took },
    { ...common, path: '/late', bytes: Buffer.byteLength(text) },
  ]);
  expect(answers()[0]!.message).toMatch(/^GET \/list\?a=1 200 page “list”, 0\.\d kB in [\d.]+ ms$/);
});

test('parts of a page by their names, and nothing of another', async () => {
  const loom = await make('development');
  const asked = { 'loom-region': 'berths', 'loom-page': 'list', 'loom-digests': '' };
  await (await loom.respond(get('/list', { ...asked, 'loom-only': 'berths' }), 'list', { berths: ['A1'] })).text();
  await (await loom.respond(get('/plain', asked), 'plain')).text();
  expect(answers().map(({ details: { sent, parts } }) => [sent, parts])).toEqual([
    ['parts', ['berths']],
    ['nothing', undefined],
  ]);
  expect(answers()[0]!.message).toContain('of page “list”: berths');
});

test('a page that failed, and the way to another URL', async () => {
  const loom = await make('development');
  await (await loom.respond(get('/wrong'), 'wrong', { berth: null })).text();
  (await loom.exchange(get('/'))).redirect('/list');
  expect(answers().map(({ details: { sent, status, to } }) => [sent, status, to])).toEqual([
    ['error', 500, undefined],
    ['redirect', 303, '/list'],
  ]);
});

test('nothing in production', async () => {
  const loom = await make('production');
  await (await loom.respond(get('/list'), 'list')).text();
  expect(answers()).toEqual([]);
});
