/** The built-in helpers, as templates call them. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom, trustedHTML, trustedURL } from 'zip-loom';
import { failure, render } from '../support/templates.ts';

const moment = '2026-06-12T13:05:00Z';
const london = { locale: 'en-GB', timeZone: 'Europe/London' };
const berlin = { locale: 'de-DE', timeZone: 'Europe/Berlin' };
/** `Intl` puts narrow and no-break spaces where people do not see them. */
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, ' ');

describe('dates and numbers in the reader’s language', () => {
  test.each<[string, string, string]>([
    ['date(a)', '12 June 2026', '12. Juni 2026'],
    ["date(a, 'short')", '12/06/2026', '12.06.26'],
    ["date(a, { weekday: 'long', day: 'numeric', month: 'long' })", 'Friday 12 June', 'Freitag, 12. Juni'],
    ["date('2026-06-12', { month: 'long', year: 'numeric' })", 'June 2026', 'Juni 2026'],
    ["time(a, { hour: 'numeric', minute: '2-digit', timeZoneName: 'short' })", '14:05 BST', '15:05 MESZ'],
    [
      "dateTime(a, { dateStyle: 'short', timeStyle: 'short', timeZone: 'UTC' })",
      '12/06/2026, 13:05',
      '12.06.26, 13:05',
    ],
    ['time(a)', '14:05', '15:05'],
    ["time(a, 'medium')", '14:05:00', '15:05:00'],
    ['dateTime(a)', '12 Jun 2026, 14:05', '12.06.2026, 15:05'],
    ['dateTime(new Date(a))', '12 Jun 2026, 14:05', '12.06.2026, 15:05'],
    ["date('2026-06-12')", '12 June 2026', '12. Juni 2026'],
    ["date(null)}${date('')", '', ''],
    ['number(1234567.891)', '1,234,567.891', '1.234.567,891'],
    ['number(0.5, { minimumFractionDigits: 2 })', '0.50', '0,50'],
    ["number(null)}${money(null, 'EUR')}${percent(null)", '', ''],
    ["number('1234567.891')", '1,234,567.891', '1.234.567,891'],
    ["money('12345678901234567890.12', 'EUR')", '€12,345,678,901,234,567,890.12', '12.345.678.901.234.567.890,12 €'],
    ["time('14:05')", '14:05', '14:05'],
    ["date('2026-06-12 13:05:00+02')", '12 June 2026', '12. Juni 2026'],
    ["money(1234.5, 'GBP')", '£1,234.50', '1.234,50 £'],
    ['percent(0.256)', '26%', '26 %'],
    ['percent(0.256, { maximumFractionDigits: 1 })', '25.6%', '25,6 %'],
    ["list(['a', 'b', 'c'])", 'a, b and c', 'a, b und c'],
    ["list(['a', 'b'], 'disjunction')", 'a or b', 'a oder b'],
    ['list(null)', '', ''],
    ["plural(1, 'berth', 'berths')", '1 berth', '1 berth'],
    ["plural(1200, 'berth', 'berths')", '1,200 berths', '1.200 berths'],
    ["relativeTime(a, '2026-06-12T13:05:30Z')", '30 seconds ago', 'vor 30 Sekunden'],
    ["relativeTime(a, '2026-06-12T13:08:00Z')", '3 minutes ago', 'vor 3 Minuten'],
    ["relativeTime(a, '2026-06-11T13:05:00Z')", 'tomorrow', 'morgen'],
    ["relativeTime(a, '2024-06-12T13:05:00Z')", 'in 2 years', 'in 2 Jahren'],
  ])('${%s}', async (expression, english, german) => {
    const loom = await createLoom({ sources: { 'pages/a.html': `<meta (takes a)>\${${expression}}` } });
    expect(plain(await loom.render('a', { a: moment }, { context: london }))).toBe(english);
    expect(plain(await loom.render('a', { a: moment }, { context: berlin }))).toBe(german);
  });

  test.each([
    ['en', [0, 1, 2, 5, 21], ['0 many', '1 one', '2 many', '5 many', '21 many']],
    ['pl', [1, 2, 5, 22], ['1 one', '2 few', '5 many', '22 few']],
    ['ar', [0, 1, 2, 3], ['0 zero', '1 one', '2 two', '3 few']],
  ])('plurals of %s have the forms of the language', async (locale, counts, expected) => {
    const forms =
      locale === 'en'
        ? "{ one: 'one', other: 'many' }"
        : "{ zero: 'zero', one: 'one', two: 'two', few: 'few', many: 'many', other: 'other' }";
    const loom = await createLoom({ sources: { 'pages/a.html': `<meta (takes a)>\${plural(a, ${forms})}` } });
    const written = await Promise.all(counts.map((a) => loom.render('a', { a }, { context: { locale } })));
    expect(written).toEqual(expected);
  });

  test.each([
    "date(1, { weekday: 'often' })",
    "time(1, { dateStyle: 'short', weekday: 'long' })",
    "plural(1, { one: 'x' })",
  ])('${%s} is told in development, and shown as usual to visitors', async (expression) => {
    expect((await failure(`\${${expression}}`)).code).toBe('invalid-helper-call');
    const logger = { warn: () => {}, error: () => {} };
    expect(await render(`\${${expression}}`, {}, {}, { mode: 'production', logger })).not.toBe('');
  });

  test('helpers of a project know the reader’s place', async () => {
    const loom = await createLoom({
      sources: { 'pages/a.html': "${place()} ${shout('i')} ${arrow(1)}" },
      helpers: {
        place() {
          return `${this.locale} ${this.timeZone}`;
        },
        shout(text: string) {
          return text.toLocaleUpperCase(this.locale);
        },
        arrow: (value: number) => value + 1,
      },
    });
    expect(await loom.render('a', {}, { context: london })).toBe('en-GB Europe/London I 2');
    expect(await loom.render('a', {}, { context: { locale: 'tr', timeZone: 'UTC' } })).toBe('tr UTC İ 2');
  });

  test('without a context the configuration says where the reader is', async () => {
    expect(await render('${date("2026-06-12")}', {}, {}, { locale: 'fr' })).toBe('12 juin 2026');
  });

  test('a date written without a time is that day everywhere', async () => {
    const loom = await createLoom({ sources: { 'pages/a.html': '${date("2026-06-12")}' } });
    for (const timeZone of ['Pacific/Kiritimati', 'Pacific/Pago_Pago']) {
      expect(await loom.render('a', {}, { context: { locale: 'en-GB', timeZone } })).toBe('12 June 2026');
    }
  });
});

describe('texts', () => {
  test.each<[string, string]>([
    ["truncate('Windward Sandpiper', 30)", 'Windward Sandpiper'],
    ["truncate('Windward Sandpiper', 18)", 'Windward Sandpiper'],
    ["truncate('Windward Sandpiper sails', 20)", 'Windward Sandpiper…'],
    ["truncate('Windward Sandpiper', 12)", 'Windward…'],
    ["truncate('Donaudampfschifffahrt', 5)", 'Donau…'],
    ["truncate('👩‍👩‍👧‍👦👩‍👩‍👧‍👦👩‍👩‍👧‍👦', 2)", '👩‍👩‍👧‍👦👩‍👩‍👧‍👦…'],
    ["truncate('a b', 0)", '…'],
    ['truncate(null, 3)', ''],
    ['json({ a: [1] })', '{\n  &quot;a&quot;: [\n    1\n  ]\n}'],
  ])('${%s}', async (expression, output) => {
    expect(await render(`\${${expression}}`)).toBe(output);
  });
});

describe('URLs', () => {
  test.each<[string, string]>([
    ["withQuery('/berths?q=a&page=2', { page: 3 })", '/berths?q=a&amp;page=3'],
    ["withQuery('/berths?q=a&page=2', { page: null })", '/berths?q=a'],
    ["withQuery('/berths?q=a', { q: '' })", '/berths'],
    ["withQuery('/berths#top', { kind: ['sail', 'motor'] })", '/berths?kind=sail&amp;kind=motor#top'],
    ["withQuery('/berths', { free: true, taken: false })", '/berths?free=on'],
    ["withQuery('/berths', { q: 'a&b=c' })", '/berths?q=a%26b%3Dc'],
    ["withQuery('https://h.test/x?a=1', { a: 2 })", 'https://h.test/x?a=2'],
    ['withQuery(context.url, { page: 2 })', '/here?q=x&amp;page=2'],
  ])('${%s}', async (expression, output) => {
    const loom = await createLoom({ sources: { 'pages/a.html': `\${${expression}}` } });
    expect(await loom.render('a', {}, { context: { url: new URL('http://harbour.test/here?q=x') } })).toBe(output);
  });

  test('several segments, none of which climbs', async () => {
    expect(await render('<a href="/files/${urlPath("a b", ["c/d", "é"])}">x</a>')).toBe(
      '<a href="/files/a%20b/c%2Fd/%C3%A9">x</a>',
    );
    expect((await failure('<a href="/files/${urlPath("a", "..")}">x</a>')).code).toBe('refused-path-segment');
  });
});

describe('a project’s own helpers', () => {
  test('are called by name, and are in place of built-in ones', async () => {
    const helpers = { knots: (speed: number) => `${speed} kn`, date: () => 'today' };
    expect(await render('${knots(4)} ${date(1)} ${number(2)}', {}, {}, { helpers })).toBe('4 kn today 2');
  });

  test('are functions', async () => {
    await expect(render('x', {}, {}, { helpers: { knots: 4 } })).rejects.toThrow(
      'The helper “knots” is not a function.',
    );
  });
});

describe('what a helper cannot print is an error in development, and in production a line of the log with its place', () => {
  test.each<[string, message: string, production: string]>([
    ['date(undefined)', 'undefined is not a date.', ''],
    ["date('2026-06-31')", '“2026-06-31” is not a date.', ''],
    ["date('2026-06-12T25:00')", '“2026-06-12T25:00” is not a date.', ''],
    ["date('soon 5')", '“soon 5” is not a date.', ''],
    ['date({})', 'an object is not a date.', ''],
    ['date(new Date(NaN))', 'an invalid Date is not a date.', ''],
    ["date('2026-06-12', 'log')", '“log” is none of short, medium, long, full', 'June 12, 2026'],
    ['time()', 'undefined is not a date.', ''],
    ["relativeTime('x')", '“x” is not a date.', ''],
    ["number('x')", '“x” is not a number', ''],
    ["number('')}${number(NaN)", 'NaN is not a number', ''],
    ['number(5, { style: "x" })', 'the options are none of Intl.NumberFormat', '5'],
    ['percent(undefined)', 'undefined is not a number', ''],
    ["money('twelve', 'GBP')", '“twelve” is not a number. Write money(amount, ', ''],
    ["money(5, 'Euro')", '“Euro” is not the code of a currency', '5'],
    ['money(5)', 'undefined is not the code of a currency', '5'],
    ["plural(5, 'tool')", 'a word for one and a word for several are needed', '5 tool'],
    ["plural('x', 'a', 'b')", '“x” is not a number', ''],
    ['plural(1)', 'a word for one', '1'],
    ['list(5)', '5 is not a list', ''],
    ["list('abc')", '“abc” is not a list', 'abc'],
    ["list(['a', 'b'], 'and')", '“and” is none of conjunction, disjunction', 'a and b'],
    ["truncate('abc')", 'undefined is not a length', 'abc'],
    ["truncate('abc', 'x')", '“x” is not a length', 'abc'],
    ['withQuery()', 'undefined is not a URL', ''],
    ["withQuery('/x')", 'undefined is no object of changes', '/x'],
    ['asset()', 'undefined is not a path', ''],
    ["urlPath('a', undefined)", 'a segment is undefined', 'a/'],
    ['trustedHTML(undefined)', 'undefined is not text', ''],
    ['trustedURL(undefined)', 'undefined is not text', ''],
  ])('${%s}', async (expression, message, production) => {
    const error = await failure(`<p>\${${expression}}</p>`);
    expect(error.message).toContain(message);
    expect([error.line, error.column]).toEqual([1, expression.includes('}${') ? expect.any(Number) : 6]);
    const logged: object[] = [];
    const logger = { warn: (details: object) => logged.push(details), error: () => {} };
    const loom = await createLoom({ sources: { 'pages/a.html': `<p>\${${expression}}</p>` }, logger });
    // The second page says it no more.
    for (let turn = 0; turn < 2; turn++) expect(await loom.render('a')).toBe(`<p>${production}</p>`);
    expect(logged).toEqual(
      [expect.objectContaining({ place: expect.stringMatching(/^pages\/a\.html:1:\d+$/) })].slice(0, 1),
    );
  });

  test.each([
    ['trustedHTML(5)', 'trustedHTML(…) was given a value of the type number, not text.'],
    ['trustedURL({})', 'trustedURL(…) was given a value of the type object, not text.'],
  ])('nobody vouches for what is no text: ${%s}', async (expression, message) => {
    expect((await failure(`\${${expression}}`)).message).toContain(message);
    expect(() => trustedHTML({} as never)).toThrow('not text');
    expect(() => trustedURL(undefined as never)).toThrow('not text');
    expect(trustedURL(new URL('https://harbour.test/'))).toBeDefined();
  });
});

test('a text is cut between graphemes, wherever it is long', async () => {
  const piece = fc.constantFrom(
    'a',
    'word ',
    ' ',
    '👩‍👩‍👧',
    '🇩🇪',
    'é',
    `x${'\u0301'.repeat(300)}`,
    '\r\n',
    'a'.repeat(250),
  );
  const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });
  await fc.assert(
    fc.asyncProperty(fc.array(piece, { maxLength: 12 }), fc.nat(700), async (pieces, length) => {
      const text = pieces.join('');
      const cut = await render('<meta (takes text, length)>${trustedHTML(truncate(text, length))}', { text, length });
      const graphemes = Array.from(segmenter.segment(text), ({ segment }) => segment);
      if (graphemes.length <= length) return expect(cut).toBe(text);
      const kept = cut.slice(0, -1);
      const whole = Array.from(segmenter.segment(kept), ({ segment }) => segment);
      expect([cut.endsWith('…'), text.startsWith(kept), whole.length <= length]).toEqual([true, true, true]);
      expect(whole).toEqual(graphemes.slice(0, whole.length));
    }),
    { numRuns: 200, seed: 20261201 },
  );
});
