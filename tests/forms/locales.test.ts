/** What a definition says by locale, and what visitors read of it: labels, hints, choices, summaries. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { site } from '../support/exchanges.ts';
import { quietLogger, secret } from '../support/settings.ts';

const form = defineForm(
  'stay',
  z.object({
    boat: z.string().min(2),
    kind: z.enum(['sail', 'motor']),
    crew: z.array(z.object({ name: z.string().min(2), tags: z.array(z.string().min(2)).optional() })).optional(),
  }),
  {
    labels: {
      boat: 'Boat',
      'crew[].name': 'Name',
      de: { boat: 'Boot', crew: 'Mannschaft' },
      'de-CH': { boat: 'Schiff' },
    },
    hints: { boat: 'As it is painted', de: { boat: 'Wie es angeschrieben ist' } },
    choiceLabels: { kind: { sail: 'Sailing' }, de: { kind: { sail: 'Segelboot', motor: 'Motorboot' } } },
  },
);

async function shown(template: string, locale: string | undefined, data: object = { form: form.blank() }) {
  const loom = await createLoom({
    sources: { 'pages/page.html': `<meta (takes form = null, posts = [])>${template}` },
    secret,
    logger: quietLogger,
    context: () => (locale === undefined ? {} : { locale }),
  });
  return (await loom.respond(new Request(site), 'page', data)).text();
}

describe('by the locale of the page', () => {
  const fields = '<form-field name="boat" form=${form}></form-field><b (bind form)><select name="kind"></select></b>';
  test.each([
    [undefined, ['Boat', 'As it is painted', 'Sailing', 'motor']],
    ['en-GB', ['Boat', 'As it is painted', 'Sailing', 'motor']],
    ['de', ['Boot', 'Wie es angeschrieben ist', 'Segelboot', 'Motorboot']],
    ['de-CH', ['Schiff', 'Wie es angeschrieben ist', 'Segelboot', 'Motorboot']],
    ['fr', ['Boat', 'As it is painted', 'Sailing', 'motor']],
  ])('%s', async (locale, expected) => {
    const html = await shown(fields, locale);
    expect(
      [...html.matchAll(/(?:<label[^>]*>|<p class="field-hint"[^>]*>|<option value="[^"]+">)([^<]*)</g)].map(
        ([, text]) => text,
      ),
    ).toEqual(expected);
  });

  test('one definition in several locales, in turns: controls that are kept do not mix', async () => {
    const loom = await createLoom({
      sources: { 'pages/page.html': '<meta (takes form)><b (bind form)><select name="kind"></select></b>' },
      secret,
      logger: quietLogger,
      context: (request) => ({ locale: new URL(request.url).searchParams.get('l') ?? 'en' }),
    });
    const page = async (locale: string) =>
      (await loom.respond(new Request(`${site}/?l=${locale}`), 'page', { form: form.blank() })).text();
    for (let turn = 0; turn < 2; turn++)
      for (const [locale, word] of [
        ['en', 'Sailing'],
        ['de', 'Segelboot'],
      ])
        expect(await page(locale!)).toContain(`>${word}<`);
  });

  test('in rows, and words of ours too', async () => {
    const rows = [1, 2].map((key) => ({ form: form.from({ crew: [{ name: 'Bo' }] }, { key: String(key) }) }));
    const html = await shown(
      '<template (for post of posts)>${post.form.items("crew")[0].label}, ${post.form.labelOf("boat")}; </template>',
      'de',
      { posts: rows },
    );
    expect(html).toBe('Mannschaft 1, Boot; Mannschaft 1, Boot; ');
  });

  test.each([
    [{ labels: { nmae: 'x' } }],
    [{ labels: { de: { nmae: 'x' } } }],
    [{ labels: { 'no locale': { boat: 'x' } } }],
    [{ choiceLabels: { de: { nmae: { a: 'x' } } } }],
    [{ hints: { de: { boat: 5 } } }],
  ])('%j is refused', (options) => {
    expect(() => defineForm('stay', z.object({ boat: z.string() }), options as never)).toThrow();
  });
});

describe('a summary', () => {
  const summary = async (template: string, locale = 'en') => {
    const sent = await form.read(
      new Request(site, {
        method: 'POST',
        body: new URLSearchParams({ boat: 'x', kind: 'sail', 'crew[1].name': 'y', 'crew[1].tags[0]': 'z' }),
      }),
      { token: false },
    );
    const html = await shown(`<form (bind form)><ul (errors)></ul>${template}</form>`, locale, { form: sent });
    return [...html.matchAll(/<li><a [^>]*>([^<]*)<\/a>/g)].map(([, text]) => text);
  };
  test.each([
    ['', ['Boat', 'Crew 1, Name', 'Crew 1, Tags 1']],
    ['<label for="boat"> Your\n boat </label><input name="boat">', ['Your boat', 'Crew 1, Name', 'Crew 1, Tags 1']],
    ['<label>Vessel <input name="boat"></label>', ['Vessel', 'Crew 1, Name', 'Crew 1, Tags 1']],
    [
      '<form-field name="boat" label="Ship &amp; co" form=${form}></form-field>',
      ['Ship &amp; co', 'Crew 1, Name', 'Crew 1, Tags 1'],
    ],
    [
      '<p (for row, i of form.items("crew"))><label for="crew[${i}].name">Who</label><input name="crew[${i}].name"></p>',
      ['Boat', 'Crew 1, Who', 'Crew 1, Tags 1'],
    ],
    ['<label for="boat">Boat <b>!</b></label><input name="boat">', ['Boat', 'Crew 1, Name', 'Crew 1, Tags 1']],
  ])('says what the labels say, and names rows: %s', async (template, expected) => {
    expect(await summary(template)).toEqual(expected);
  });
});
