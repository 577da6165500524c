/** Reading submissions: what is sent, what comes out. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { visitor } from '../support/exchanges.ts';
import { multipartBody, multipartType, type WrittenPart } from '../support/multipart.ts';

const form = defineForm(
  'boat',
  z.object({
    name: z.string().min(2).max(10).optional(),
    note: z.string().nullable().optional(),
    tide: z.string().nullable(),
    length: z.number().optional(),
    crew: z.int().optional(),
    fast: z.boolean().optional(),
    agreed: z.literal(true).optional(),
    kind: z.enum(['sail', 'motor']).optional(),
    decks: z.union([z.literal(1), z.literal(2)]).optional(),
    built: z.iso.date().optional(),
    opens: z.iso.time().optional(),
    when: z.date().optional(),
    password: z.string().optional(),
    empty: z.string().optional(),
    flags: z.array(z.string()).optional(),
    nights: z.number().default(3),
    owner: z.object({ name: z.string(), port: z.string().optional() }).optional(),
    stops: z
      .array(z.object({ port: z.string().optional(), days: z.int().optional() }))
      .max(3)
      .optional(),
  }),
  { kinds: { password: 'password', when: 'date' }, empty: { empty: 'keep' } },
);

const post = (
  body: string,
  headers: Record<string, string> = { 'content-type': 'application/x-www-form-urlencoded' },
) => new Request('http://harbour.test/', { method: 'POST', body, headers });
const read = (body: string) => form.read(post(body), { token: false });

describe('values by field', () => {
  test.each<[string, string, object]>([
    ['nothing', '', {}],
    ['text is trimmed', 'name=+ab+', { name: 'ab' }],
    ['a password is not', 'password=+ab+', { password: ' ab ' }],
    ['line ends', 'note=a%0D%0Ab%0Dc', { note: 'a\nb\nc' }],
    ['empty is not given', 'name=&note=', {}],
    ['empty is kept on demand', 'empty=', { empty: '' }],
    ['a number', 'length=-12.50', { length: -12.5 }],
    ['an exponent', 'length=1e2', { length: 100 }],
    ['an integer', 'crew=7', { crew: 7 }],
    ['on', 'fast=on', { fast: true }],
    ['no', 'fast=NO', { fast: false }],
    ['the companion loses', 'fast=false&fast=true', { fast: true }],
    ['the companion alone', 'fast=false', { fast: false }],
    ['a choice', 'kind=sail', { kind: 'sail' }],
    ['a choice that is a number', 'decks=2', { decks: 2 }],
    ['a date', 'built=2024-02-29', { built: '2024-02-29' }],
    ['a Date', 'when=2024-02-29', { when: new Date('2024-02-29') }],
    ['a list by one name', 'flags=a&flags=b', { flags: ['a', 'b'] }],
    ['a list by brackets', 'flags[]=a&flags[]=b', { flags: ['a', 'b'] }],
    ['a list by indices, with gaps', 'flags[7]=b&flags[2]=a', { flags: ['a', 'b'] }],
    ['no items, says the companion', 'flags[]=', { flags: [] }],
    ['a group', 'owner.name=Ada&owner.port=', { owner: { name: 'Ada' } }],
    [
      'a list of groups',
      'stops[5].port=B&stops[1].port=A&stops[1].days=2',
      { stops: [{ port: 'A', days: 2 }, { port: 'B' }] },
    ],
    ['no groups, says the companion', 'stops[]=', { stops: [] }],
    ['of several texts the last', 'name=ab&name=cd', { name: 'cd' }],
    ['a plus and percent signs', 'name=a%2Bb+c', { name: 'a+b c' }],
    ['a percent sign that begins no byte', 'name=100%25%zz', { name: '100%%zz' }],
    ['bytes that are not UTF-8', 'name=%ff%fe', { name: '\ufffd\ufffd' }],
    ['an encoded surrogate', 'name=a%ED%A0%80b', { name: 'a\ufffd\ufffd\ufffdb' }],
    ['empty pairs', '&&name=ab&&=x&', { name: 'ab' }],
    ['unknown names', 'evil=1&name.x=2&owner=3&flags[0].x=1', {}],
    [
      'prototype keys',
      '__proto__.polluted=1&constructor.prototype.polluted=1&owner.__proto__.polluted=1&flags[__proto__]=1',
      {},
    ],
    ['a huge index', 'flags[99999999999999999999]=a', { flags: ['a'] }],
    ['malformed names', 'name[=1&[0]=2&.name=3&name..x=4&flags[-1]=5&flags[1e3]=6', {}],
  ])('%s', async (_name, body, value) => {
    const sent = await read(body);
    expect([sent.errors, sent.status]).toEqual([{}, 200]);
    expect(sent.value).toEqual({ tide: null, nights: 3, fast: false, ...value });
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });

  test.each<[string, string, string, RegExp]>([
    ['letters behind a number', 'length=12abc', 'length', /number/],
    ['hexadecimal', 'length=0x1f', 'length', /number/],
    ['too large', 'length=1e999', 'length', /number/],
    ['a comma', 'length=1,5', 'length', /number/],
    ['Infinity', 'length=Infinity', 'length', /number/],
    ['a fraction', 'crew=1.5', 'crew', /whole/],
    ['beyond the safe integers', 'crew=9007199254740993', 'crew', /whole/],
    ['not a boolean', 'fast=maybe', 'fast', /yes or no/],
    ['not ticked', 'agreed=false', 'agreed', /tick/],
    ['not a choice', 'kind=rowing', 'kind', /choose/],
    ['an impossible date', 'built=2023-02-29', 'built', /exists/],
    ['an impossible time', 'opens=24:00', 'opens', /time/],
    ['too long', `name=${'x'.repeat(11)}`, 'name', /at most 10/],
    ['the schema’s own check', 'name=a', 'name', /./],
    ['a required field of a group', 'owner.port=x', 'owner.name', /required/],
    ['an error inside a list', 'stops[9].days=x', 'stops[0].days', /whole/],
    ['too many items', 'stops[0].days=1&stops[1].days=1&stops[2].days=1&stops[3].days=1', 'stops', /./],
  ])('%s is an error at its field, and its text is kept', async (_name, body, path, message) => {
    const sent = await read(body);
    expect([sent.ok, sent.status, sent.value]).toEqual([false, 422, undefined]);
    expect(Object.keys(sent.errors)).toEqual([path]);
    expect(sent.errors[path]!.join()).toMatch(message);
  });

  test('what was not sent keeps the model’s value, what was sent empty is cleared', async () => {
    const ada = await visitor({
      'pages/a.html':
        '<meta (takes f)><form (bind f) method="post"><input name="note"><input name="length"><input name="nights"></form>',
    });
    const model = { name: 'Tern', note: 'old', length: 7, flags: ['a'], fast: true, tide: null };
    await ada.page((exchange) => exchange.respond('a', { f: form.from(model) }));
    const sent = await (await ada.send('note=&length=8')).read(form.from(model));
    expect(sent.value).toEqual({ ...model, note: undefined, length: 8, nights: 3 });
  });
});

describe('bodies', () => {
  const parts = (all: readonly WrittenPart[]) => new TextDecoder().decode(multipartBody(all));
  const urlEncoded = { 'content-type': 'application/x-www-form-urlencoded' };
  test.each<[string, string, Record<string, string>, number]>([
    ['no content type', 'name=ab', {}, 415],
    ['another type', 'name=ab', { 'content-type': 'text/csv' }, 415],
    ['an encoded body', 'name=ab', { ...urlEncoded, 'content-encoding': 'gzip' }, 415],
    ['too many fields', 'a=1&'.repeat(1001), urlEncoded, 413],
    ['a long name', `${'n'.repeat(201)}=1`, urlEncoded, 413],
    ['too large', `name=${'x'.repeat(2 ** 20)}`, urlEncoded, 413],
    ['JSON that is none', '{', { 'content-type': 'application/json' }, 400],
    ['a JSON list', '[]', { 'content-type': 'application/json' }, 400],
    ['a file in parts', parts([['name', { name: 'a.txt', bytes: 'x' }]]), { 'content-type': multipartType }, 415],
    ['parts without an end', parts([['name', 'ab']]).slice(0, -9), { 'content-type': multipartType }, 400],
    ['parts without a boundary', parts([['name', 'ab']]), { 'content-type': 'multipart/form-data' }, 400],
    ['too many parts', parts(Array(1001).fill(['a', '1'])), { 'content-type': multipartType }, 413],
    ['too large parts', parts([['name', 'x'.repeat(2 ** 20)]]), { 'content-type': multipartType }, 413],
  ])('%s', async (_name, body, headers, status) => {
    const request = new Request('http://harbour.test/', {
      method: 'POST',
      body: new TextEncoder().encode(body),
      headers,
    });
    const sent = await form.read(request, { token: false });
    expect([sent.ok, sent.status, Object.keys(sent.errors), sent.response.status]).toEqual([
      false,
      status,
      [''],
      status,
    ]);
  });

  test('parts bind by the same rules, and a field of a file that was not chosen is none', async () => {
    const body = new FormData();
    const texts = new URLSearchParams('name=ab&length=3&flags=x&stops[0].days=2&owner.name=Ada');
    for (const [name, value] of texts) body.append(name, value);
    body.append('photo', new File([], ''));
    const [sent, same] = await Promise.all(
      [body, texts].map((one) =>
        form.read(new Request('http://harbour.test/', { method: 'POST', body: one }), { token: false }),
      ),
    );
    expect([sent!.errors, sent!.value]).toEqual([same!.errors, same!.value]);
    expect(sent!.value).toMatchObject({ name: 'ab', length: 3, owner: { name: 'Ada' } });
  });

  test('JSON binds by the same rules', async () => {
    const body = JSON.stringify({
      name: 'ab',
      length: 3,
      fast: true,
      flags: ['x'],
      stops: [{ days: 2 }],
      owner: { name: 'Ada' },
      'owner.port': 'no',
      nights: null,
    });
    const sent = await form.read(post(body, { 'content-type': 'application/json' }), { token: false });
    expect(sent.value).toEqual({
      tide: null,
      name: 'ab',
      length: 3,
      fast: true,
      flags: ['x'],
      stops: [{ days: 2 }],
      owner: { name: 'Ada' },
      nights: 3,
    });
  });

  test.each(['9007199254740993', '-9007199254740992', '1e400', '12345678901234567890'])(
    'a JSON number that cannot be held is an error at its field, of whatever kind: %s',
    async (number) => {
      const body = `{"name": ${number}, "length": ${number}, "owner": {"name": ${number}}}`;
      const sent = await form.read(post(body, { 'content-type': 'application/json' }), { token: false });
      expect(sent.value).toBeUndefined();
      expect(Object.keys(sent.errors)).toEqual(expect.arrayContaining(['name', 'length', 'owner.name']));
    },
  );

  test('a JSON number that can be held is itself', async () => {
    const body = '{"name": 9007199254740991, "length": 0.1}';
    const sent = await form.read(post(body, { 'content-type': 'application/json' }), { token: false });
    expect([sent.text('name'), sent.text('length')]).toEqual(['9007199254740991', '0.1']);
  });

  test('a body that stops half way, and one that never ends', async () => {
    const cut = new ReadableStream({ pull: (controller) => controller.error(new Error('gone')) });
    const slow = new ReadableStream({ pull: () => new Promise(() => {}) });
    const quick = defineForm('quick', z.object({}), { limits: { pause: 20 } });
    const streamed = (body: ReadableStream) =>
      new Request('http://harbour.test/', { method: 'POST', body, headers: urlEncoded, duplex: 'half' } as RequestInit);
    expect((await quick.read(streamed(cut), { token: false })).status).toBe(400);
    expect((await quick.read(streamed(slow), { token: false })).status).toBe(408);
  });

  test('without an exchange, token: false must be said', async () => {
    const sent = await form.read(post('name=ab'));
    expect([sent.status, sent.errors['']![0]]).toEqual([403, expect.stringContaining('exchange')]);
  });

  test('nothing that is sent is thrown, and nothing reaches the value that the schema does not have', async () => {
    const piece = fc.constantFrom(
      'name',
      'flags',
      'stops',
      'owner',
      '[0]',
      '[]',
      '[',
      ']',
      '.',
      'days',
      '__proto__',
      'constructor',
      '=',
      '&',
      '%',
      '%00',
      '1',
      'é',
      '\ud800',
      '+',
      ' ',
    );
    const fields = new Set(Object.keys((await read('')).value as object).concat('name', 'flags', 'stops', 'owner'));
    await fc.assert(
      fc.asyncProperty(fc.array(piece, { maxLength: 25 }), async (pieces) => {
        const sent = await read(pieces.join(''));
        expect([200, 422]).toContain(sent.status);
        for (const name of Object.keys(sent.value ?? {})) expect(fields.has(name)).toBe(true);
      }),
      { numRuns: 1500 },
    );
  });
});

describe('queries', () => {
  const search = defineForm('search', z.object({ q: z.string().optional(), page: z.int().min(1).default(1) }), {
    unknown: 'collect',
  });

  test('are read by the same rules, and collect what is not known', async () => {
    const sent = await search.readQuery('http://harbour.test/berths?q=+a+&page=2&utm=x&utm=y');
    expect([sent.value, [...sent.unknown]]).toEqual([{ q: 'a', page: 2 }, [['utm', ['x', 'y']]]]);
  });

  test('a bad one has a plain 400 ready', async () => {
    const sent = await search.readQuery('/berths?page=two');
    expect([sent.ok, sent.response.status, await sent.response.text()]).toEqual([
      false,
      400,
      'Page: Please enter a whole number.\n',
    ]);
  });

  test('unknown names are refused on demand', async () => {
    const strict = defineForm('strict', z.object({ q: z.string().optional() }), { unknown: 'reject' });
    expect((await strict.readQuery('?q=1&x=2')).status).toBe(422);
  });
});

describe('messages', () => {
  test('are worded by the project, by code and by locale', async () => {
    const { render } = await import('../support/templates.ts');
    const worded = defineForm('w', z.object({ n: z.number(), m: z.number() }), {
      messages: { required: 'Needed.', de: { required: ({ label }) => `${label} fehlt.` } },
    });
    const sent = await worded.read(post('n=1'), { token: false });
    expect(sent.errors).toEqual({ m: ['Needed.'] });
    expect(await render('<meta (takes f)><template (bind f)><p (errors)></p></template>', { f: sent })).toContain(
      'Please check the marked fields.',
    );
  });
});
