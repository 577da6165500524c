/** The language and the time zone of a page: from the context, the browser, the options. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom, type LoomContext, type LoomOptions } from 'zip-loom';

const sources = {
  'pages/day.html': '<html lang=${context.locale}>${date("2026-06-12")} ${context.timeZone} ${context.page}</html>',
};

interface Logged {
  code: string;
}

async function site(options: LoomOptions) {
  const logged: Logged[] = [];
  const logger = { warn: (details: object) => logged.push(details as Logged), error: () => {} };
  return { loom: await createLoom({ sources, logger, ...options }), logged };
}

const asking = (language: string) =>
  new Request('http://harbour.test/', { headers: language === '' ? {} : { 'accept-language': language } });

describe('the language that a browser asks for', () => {
  const english = '<html lang="en-GB">12 June 2026';
  const german = '<html lang="de">12. Juni 2026';
  test.each([
    ['de-DE,de;q=0.9', german],
    ['de-CH', german],
    ['DE', german],
    ['en-GB,en;q=0.9,de;q=0.8', english],
    ['en', english],
    // Better the other English than a language that was not asked for.
    ['en-US', english],
    ['en-US,de;q=0.5', german],
    ['fr,de;q=0.2', german],
    ['fr', english],
    ['de;q=0, *', english],
    ['*', english],
    ['en_GB', english],
    ['', english],
    [';;;,,q=', english],
    ['de;q=x,en', english],
    ['x'.repeat(5000), english],
  ])('%.40s', async (asked, start) => {
    const { loom } = await site({ locales: ['en-GB', 'de'] });
    const response = await loom.respond(asking(asked), 'day');
    expect(response.status).toBe(200);
    expect(response.headers.get('vary')).toContain('Accept-Language');
    expect(await response.text()).toContain(start);
  });

  test('is met by another kind of it, before another language', async () => {
    const { loom } = await site({ locales: ['de', 'en-GB'] });
    expect(await (await loom.respond(asking('en-US'), 'day')).text()).toContain(english);
    expect(await (await loom.respond(asking('fr'), 'day')).text()).toContain(german);
  });

  test('means nothing where the context knows better, or there is one language', async () => {
    const { loom } = await site({ locales: ['en-GB', 'de'], context: () => ({ locale: 'en-GB' }) });
    const own = await loom.respond(asking('de'), 'day');
    expect(own.headers.get('vary')).not.toContain('Accept-Language');
    expect(await own.text()).toContain(english);
    const { loom: one } = await site({ locales: ['en-GB'] });
    const only = await one.respond(asking('de'), 'day');
    expect(only.headers.get('vary')).not.toContain('Accept-Language');
    expect(await only.text()).toContain(english);
  });

  test('is that of messages in forms too, and a handler may change it', async () => {
    const { loom } = await site({ locales: ['en-GB', 'de'] });
    const exchange = await loom.exchange(asking('de'));
    expect(exchange.context.locale).toBe('de');
    exchange.context.locale = 'en-GB';
    expect(await (await exchange.respond('day')).text()).toContain(english);
  });
});

describe('a locale or time zone that is none', () => {
  test.each<[LoomContext, string]>([
    [{ locale: 'de-DE,de;q=0.9' }, 'locale'],
    [{ locale: '*' }, 'locale'],
    [{ locale: 'en_GB' }, 'locale'],
    [{ locale: '' }, 'locale'],
    [{ locale: 7 as unknown as string }, 'locale'],
    [{ timeZone: 'London' }, 'time zone'],
    [{ timeZone: '' }, 'time zone'],
  ])('of a context: %j falls back and is logged once', async (context) => {
    const { loom, logged } = await site({ locale: 'en-GB', timeZone: 'Europe/London', context: () => context });
    for (let turn = 0; turn < 2; turn++) {
      const response = await loom.respond(asking(''), 'day');
      expect(await response.text()).toBe('<html lang="en-GB">12 June 2026 Europe/London day</html>');
    }
    expect(await loom.render('day', {}, { context })).toContain('12 June 2026 Europe/London day');
    expect(logged.map(({ code }) => code)).toEqual(['invalid-place']);
  });

  test.each<[LoomOptions, string]>([
    [{ locale: 'en_GB' }, 'The option “locale” of createLoom cannot be “en_GB”. Give a language tag, such as “en-GB”.'],
    [{ locales: ['en', '*'] }, 'The option “locales[1]” of createLoom cannot be “*”. Give a language tag'],
    [{ timeZone: 'London' }, 'The option “timeZone” of createLoom cannot be “London”. Give the name of a time zone'],
  ])('of the options: %j is told at the start', async (options, message) => {
    await expect(site(options)).rejects.toThrow(message);
  });
});

test('a context without them has them in templates all the same', async () => {
  const { loom } = await site({});
  expect(await loom.render('day')).toBe('<html lang="en">June 12, 2026 UTC day</html>');
  expect(loom.renderSync('day', {}, { context: { locale: 'de-at' } })).toContain('<html lang="de-AT">12. Juni 2026');
});

test('whatever a browser or a context says, there is a page, in a language that there is', async () => {
  const text = fc.oneof(
    fc.string(),
    fc.string({ unit: fc.constantFrom(...'enGBde-_;,q=.0159* '), maxLength: 40 }),
    fc.constantFrom('de', 'EN-gb', 'x-klingon', 'und', 'i-default', 'de-DE-u-co-phonebk', 'Europe/Berlin', '+02:00'),
  );
  const { loom } = await site({
    locales: ['en-GB', 'de'],
    context: (request) => JSON.parse(request.headers.get('x') ?? '{}') as LoomContext,
  });
  const header = text.filter((one) => /^[\x20-\x7e]*$/.test(one));
  await fc.assert(
    fc.asyncProperty(header, fc.option(text), fc.option(text), async (asked, locale, timeZone) => {
      const own = JSON.stringify({ locale, timeZone }).replace(/[^\x20-\x7e]/g, '?');
      const request = new Request('http://harbour.test/', { headers: { 'accept-language': asked, x: own } });
      const response = await loom.respond(request, 'day');
      const [, lang = ''] = /<html lang="([^"]+)">/.exec(await response.text()) ?? [];
      expect(response.status).toBe(200);
      expect(Intl.getCanonicalLocales(lang)).toEqual([lang]);
    }),
    { numRuns: 500 },
  );
});
