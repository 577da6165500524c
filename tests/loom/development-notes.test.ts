/** What has nowhere to be shown is said in development: in the log, and on the page. */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { createLoom, type LoomOptions, put } from 'zip-loom';
import { createChannels, memoryBroker } from 'zip-loom/channels';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { site, visitor } from '../support/exchanges.ts';
import { secret } from '../support/settings.ts';

const form = defineForm('boat', z.object({ name: z.string().min(2), note: z.string().min(2) }));
const fields = '<input name="name"><input name="note">';
const isNoted = (text: string) => text.includes('role="note"');

/** The page after a refusal, and what was logged. */
async function refused(inside: string, body: string, options: LoomOptions = {}, outside = '') {
  const ada = await visitor(
    { 'pages/a.html': `<meta (takes f)><form (bind f) method="post">${inside}</form><div (bind f)>${outside}</div>` },
    { mode: 'development', ...options },
  );
  await ada.page((exchange) => exchange.respond('a', { f: form.blank() }));
  const exchange = await ada.send(body, { bare: body === '' });
  const text = await (await exchange.respond('a', { f: await exchange.read(form) })).text();
  return { text, logged: ada.logged.filter((code) => code.startsWith('unshown')) };
}

describe('errors of a form', () => {
  const both = '<p (errors name)></p><p (errors note)></p>';
  test.each<[string, string, string, number, string?]>([
    ['its own, without a place', fields + both, '', 1],
    ['its own, with a place', `<ul (errors)></ul>${fields}`, '', 0],
    ['its own, in a paragraph', `<p (errors)></p>${fields}`, '', 0],
    ['its own, shown below the form', fields, '', 0, '<ul (errors)></ul>'],
    ['its own, written by hand', `${fields}<p>\${f.errors[''] ?? ''}</p>`, '', 0],
    ['its own, in generated fields', '<form-fields></form-fields>', '', 0],
    ['of a field without a place', `${fields}<p (errors name)></p>`, 'name=x&note=x', 1],
    ['of both fields, with a sentence for all', `${fields}<p (errors)></p>`, 'name=x&note=x', 2],
    ['of both fields, in a summary', `${fields}<ul (errors)></ul>`, 'name=x&note=x', 0],
    ['of both fields, with a place each', fields + both, 'name=x&note=x', 0],
    ['of a generated field', '<form-field name="name"></form-field><input name="note">', 'name=x&note=x', 1],
    ['none', fields, 'name=xx&note=xx', 0],
  ])('%s', async (_name, inside, body, count, ...[outside]) => {
    const { text, logged } = await refused(inside, body, {}, outside);
    expect(logged).toEqual(Array(count).fill('unshown-error'));
    expect(text.split('role="note"')).toHaveLength(count + 1);
  });

  test('visitors see nothing of it', async () => {
    const { text, logged } = await refused(fields, '', { mode: 'production' });
    expect([isNoted(text), logged]).toEqual([false, []]);
  });

  test('text of a visitor in a message is text', async () => {
    const ada = await visitor(
      { 'pages/a.html': `<meta (takes f)><form (bind f) method="post">${fields}</form>` },
      { mode: 'development' },
    );
    await ada.page((exchange) => exchange.respond('a', { f: form.blank() }));
    const exchange = await ada.send('name=xx&note=xx');
    const sent = (await exchange.read(form)).refuse('name', '<script>1</script>');
    const text = await (await exchange.respond('a', { f: sent })).text();
    expect([isNoted(text), text.includes('<script>')]).toEqual([true, false]);
  });
});

describe('flash messages', () => {
  const pages = {
    'pages/a.html': '<p>a</p>',
    'pages/b.html': '<p>b</p><flash-messages></flash-messages>',
    'pages/late.html': '<meta (takes x)><body><p (await y = x)>${y}</p></body>',
  };
  test.each<[string, object, number]>([
    ['a', {}, 1],
    ['b', {}, 0],
    ['late', { x: new Promise((resolve) => setTimeout(resolve, 20, 'y')) }, 1],
  ])('on the page %s', async (page, data, count) => {
    const ada = await visitor(pages, { mode: 'development' });
    const text = await ada.page((exchange) => {
      exchange.flash('Saved <b>');
      return exchange.respond(page as never, data as never);
    });
    expect([isNoted(text), ada.logged, text.includes('Saved <b>')]).toEqual([
      count > 0,
      Array(count).fill('unshown-message'),
      false,
    ]);
  });
});

describe('channels', () => {
  afterEach(() => {
    jest.restoreAllMocks();
  });
  const sources = {
    'pages/a.html': '<ul (region list channel="arrivals")></ul>',
    'pages/b.html': '<meta (takes n)><ul (region list channel="berth-${n}")></ul>',
    'pages/plain.html': '<p title=" data-loom-channel=x">x</p>',
    'partials/a-row.html': '<li>x</li>',
  };
  const started = async (options: LoomOptions = {}) => {
    const logged: string[] = [];
    const note = (details: object) => logged.push((details as { code: string }).code);
    const loom = await createLoom({
      sources,
      secret,
      mode: 'development',
      logger: { warn: note, error: note },
      ...options,
    });
    const page = async (name: string) => {
      const exchange = await loom.exchange(new Request(site));
      return isNoted(await (await exchange.respond(name as never, (name === 'b' ? { n: 7 } : {}) as never)).text());
    };
    return { loom, logged, page };
  };

  test('a region with a channel, and a loom without', async () => {
    const { page, logged } = await started();
    expect([await page('a'), await page('b'), await page('plain'), logged]).toEqual([
      true,
      true,
      false,
      ['missing-channels', 'missing-channels'],
    ]);
  });

  test('a route that nobody has written is told after a while, until somebody can connect', async () => {
    const { loom, page, logged } = await started();
    const channels = createChannels({ loom, broker: memoryBroker() });
    const seen = [await page('a')];
    const later = Date.now() + 20_000;
    jest.spyOn(Date, 'now').mockImplementation(() => later);
    seen.push(await page('plain'), await page('a'));
    const answer = await channels.connect(new Request(`${site}/channels?channel=arrivals`), { authorize: () => false });
    seen.push(answer.status === 403, await page('a'));
    expect([seen, logged]).toEqual([[false, false, true, true, false], ['missing-channels-route']]);
  });

  test.each<[string, LoomOptions, string[]]>([
    ['in development', {}, ['unknown-channel', 'unknown-channel']],
    ['for visitors', { mode: 'production' }, []],
  ])('a channel that no template has, %s', async (_name, options, expected) => {
    const { loom, logged } = await started(options);
    const { publish } = createChannels({ loom, broker: memoryBroker() });
    const change = put('a-row' as never, {} as never).inside('list');
    for (const name of ['arrivals', 'arivals', 'arivals', 'berth-7', 'berth-', 'bert-7']) await publish(name, change);
    expect(logged).toEqual(expected);
  });
});
