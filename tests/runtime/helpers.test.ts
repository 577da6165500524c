/** The built-in helpers, as templates call them. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
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
    ['time(a)', '14:05', '15:05'],
    ["time(a, 'medium')", '14:05:00', '15:05:00'],
    ['dateTime(a)', '12 Jun 2026, 14:05', '12.06.2026, 15:05'],
    ['dateTime(new Date(a))', '12 Jun 2026, 14:05', '12.06.2026, 15:05'],
    ["date('2026-06-12')", '12 June 2026', '12. Juni 2026'],
    ["date(null)}${date(undefined)}${date('')", '', ''],
    ['number(1234567.891)', '1,234,567.891', '1.234.567,891'],
    ['number(0.5, { minimumFractionDigits: 2 })', '0.50', '0,50'],
    ["number(null)}${money(undefined, 'EUR')}${percent(null)", '', ''],
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
