/** Marks around what each template writes: in development, for those who ask, and never in production. */
import { expect, test } from '@jest/globals';
import { createLoom, type LoomMode } from 'zip-loom';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'pages/list.html':
    '<meta (layout plain-frame) (takes berths, password, late)>\n<h1>Berths</h1>\n<table><tr (for berth of berths)><berth-cells berth=${berth}></berth-cells></tr></table>\n<p (await x = late)><late-part x=${x}></late-part></p>',
  'layouts/plain-frame.html': '<!doctype html><html><head><title>x</title></head><body><slot></slot></body></html>',
  'partials/berth-cells.html': '<meta (takes berth)><td>${berth}</td>',
  'partials/late-part.html': '<meta (takes x)><i>${x}</i>',
};

async function pageOf(mode: LoomMode, url: string, headers: Record<string, string> = {}): Promise<string> {
  const loom = await createLoom({ sources, secret, mode, logger: quietLogger });
  const data = { berths: ['A--1>', 'B2'], password: 'x', late: Promise.resolve(1) };
  return (await loom.respond(new Request(url, { headers }), 'list', data)).text();
}

const plain = 'http://harbour.test/list';
const marks = /<!--(\/?)loom-part ([^-]*)-->/g;

test.each([
  ['by the URL', `${plain}?loom-inspect`, {}],
  ['by a cookie', plain, { cookie: 'loom-inspect=1' }],
])('whoever asks %s is told, and sees the same page', async (_name, url, headers) => {
  const page = await pageOf('development', url, headers);
  const open: string[] = [];
  const seen: Array<Record<string, unknown>> = [];
  for (const [, end, text = ''] of page.matchAll(marks)) {
    if (end) {
      open.pop();
      expect(Number(text)).toBeGreaterThanOrEqual(0);
      continue;
    }
    const part = JSON.parse(decodeURIComponent(text)) as Record<string, unknown>;
    seen.push({ ...part, within: open.join(' ') });
    open.push(String(part['template']));
  }
  expect(open).toEqual([]);
  const cells = { template: 'berth-cells', file: 'partials/berth-cells.html', line: 1, within: 'list plain-frame' };
  expect(seen).toEqual([
    {
      template: 'list',
      file: 'pages/list.html',
      line: 1,
      within: '',
      given: expect.stringContaining('berths: list of 2'),
    },
    {
      template: 'plain-frame',
      file: 'layouts/plain-frame.html',
      line: 1,
      within: 'list',
      given: '',
      caller: expect.anything(),
    },
    { ...cells, caller: { file: 'pages/list.html', line: 3 }, given: 'berth: "A--1>"' },
    { ...cells, caller: { file: 'pages/list.html', line: 3 }, given: 'berth: "B2"' },
    {
      template: 'late-part',
      file: 'partials/late-part.html',
      line: 1,
      within: expect.any(String),
      caller: { file: 'pages/list.html', line: 4 },
      given: 'x: 1',
    },
  ]);
  expect(String(seen[0]!['given'])).toContain('password: not shown');
  expect(page.replace(marks, '')).toBe(await pageOf('development', plain));
});

test.each<[LoomMode, string, Record<string, string>]>([
  ['production', `${plain}?loom-inspect`, { cookie: 'loom-inspect=1' }],
  ['development', plain, {}],
])('nothing of it in %s without being asked', async (mode, url, headers) => {
  expect(await pageOf(mode, url, headers)).not.toContain('loom-part');
});
