/** Options that are none: each is told at once, with the nearest name or what would be right. */
import { createServer } from 'node:http';
import { describe, expect, test } from '@jest/globals';
import { createLoom, type LoomOptions } from 'zip-loom';
import { createBuiltLoom } from 'zip-loom/built';
import { closeOnSignals, effectiveMethodMiddleware, nodeListener } from 'zip-loom/node';

const sources = { 'pages/home.html': 'hello' };
/** As JavaScript calls it, without types. */
const loose = (options: object) => createLoom({ sources, ...options } as LoomOptions);

describe('createLoom', () => {
  test.each<[object, string]>([
    [{ layout: {} }, 'There is no option “layout” of createLoom. Did you mean “layouts”?'],
    [{ helper: {} }, 'Did you mean “helpers”?'],
    [{ timezone: 'UTC' }, 'Did you mean “timeZone”?'],
    [{ cache: true }, 'There is no option “cache” of createLoom. Its options: sources,'],
    [{ mode: 'dev' }, 'The option “mode” of createLoom cannot be “dev”. Give “development” or “production”.'],
    [{ layouts: 'site-layout' }, 'The option “layouts” of createLoom cannot be “site-layout”. Give an object of names'],
    [{ layouts: { '**': 7 } }, 'The option “layouts.**” of createLoom cannot be a number.'],
    [{ secret: 12345 }, 'The option “secret” of createLoom cannot be a number. Give text or a list, each item text.'],
    [{ secret: [12345] }, 'The option “secret[0]” of createLoom cannot be a number. Give text.'],
    [{ elements: 'my-*' }, 'The option “elements” of createLoom cannot be “my-*”. Give a list'],
    [{ helpers: [] }, 'The option “helpers” of createLoom cannot be a list.'],
    [{ helpers: { a: 5 } }, 'The helper “a” is not a function.'],
    [{ helpers: { 'upper-case': String } }, '“upper-case” cannot be the name of a helper.'],
    [{ helpers: { context: String } }, '“context” cannot be the name of a helper.'],
    [{ logger: true }, 'The option “logger” of createLoom cannot be true. Give false or an object with the methods'],
    [{ logger: { warn() {} } }, 'The option “logger”'],
    [{ sources: 'x' }, 'The option “sources”'],
    [
      { sources: { 'pages/a.html': 5 } },
      'The option “sources.pages/a.html” of createLoom cannot be a number. Give text.',
    ],
    [{ schemes: ['FTP'] }, 'The option “schemes[0]” of createLoom cannot be “FTP”.'],
    [{ schemes: ['ftp:'] }, 'Give a scheme in lower case without its colon.'],
    [{ timeout: '5' }, 'The option “timeout” of createLoom cannot be “5”. Give a number, 0 or more.'],
    [{ timeout: Number.NaN }, 'The option “timeout”'],
    [{ maximumDepth: 0 }, 'The option “maximumDepth”'],
    [
      { trustProxy: 'yes' },
      'The option “trustProxy” of createLoom cannot be “yes”. Give true or false or a whole number',
    ],
    [{ trustProxy: -1 }, 'The option “trustProxy”'],
    [{ pagesFolder: 5 }, 'The option “pagesFolder”'],
    [{ pagesFolder: '' }, 'The option “pagesFolder”'],
    [{ assets: 5 }, 'The option “assets”'],
    [{ assets: { folders: 'x' } }, 'There is no option “assets.folders” of createLoom. Did you mean “folder”?'],
    [{ assets: { folder: '.', prefix: 'static' } }, 'The option “assets.prefix” of createLoom cannot be “static”.'],
    [
      { policy: 'lax' },
      'The option “policy” of createLoom cannot be “lax”. Give “strict” or an object of add or reportOnly.',
    ],
    [{ policy: { ad: {} } }, 'There is no option “policy.ad” of createLoom. Did you mean “add”?'],
    [{ context: {} }, 'The option “context” of createLoom cannot be an object. Give a function.'],
    [{ origin: 'harbour' }, '“harbour” is not the origin of a site.'],
    [{ origin: null }, 'The option “origin” of createLoom cannot be null.'],
    [{ built: {} }, 'The option “built”'],
    [{ templates: 5 }, 'The option “templates”'],
    [{ templates: new URL('https://harbour.example/') }, 'The option “templates”'],
  ])('%j', async (options, message) => {
    await expect(loose(options)).rejects.toThrow(message);
  });

  test.each<[unknown]>([[5], ['templates'], [null], [[]]])('given %j', async (given) => {
    await expect(createLoom(given as LoomOptions)).rejects.toThrow('The options of createLoom cannot be');
  });

  test('an option that is undefined is left out', async () => {
    await expect(loose({ locale: undefined, secret: undefined })).resolves.toBeDefined();
  });

  test('logger: false is silence', async () => {
    const loom = await loose({ logger: false });
    const response = await loom.respond(new Request('http://harbour.test/'), 'nowhere');
    expect(response.status).toBe(500);
  });
});

describe('other functions', () => {
  const request = (method = 'GET') => new Request('http://harbour.test/', { method });
  const wrong: Array<[name: string, call: () => unknown, message: string]> = [
    ['createBuiltLoom', () => createBuiltLoom({ layout: {} } as never), 'no option “layout” of createBuiltLoom'],
    ['render', async () => (await loose({})).render('home', {}, { contxt: {} } as never), 'Did you mean “context”?'],
    [
      'renderSync',
      async () => (await loose({})).renderSync('home', {}, { context: 5 } as never),
      '“context” of renderSync',
    ],
    ['stream', async () => (await loose({})).stream('home', {}, { order: 'last' } as never), '“source” or “late”'],
    [
      'renderTemplate',
      async () => (await loose({})).renderTemplate('home', {}, [] as never),
      'The options of renderTemplate cannot be a list.',
    ],
    [
      'redirect',
      async () => (await (await loose({})).exchange(request())).redirect('/', { flush: 'x' } as never),
      'There is no option “flush” of redirect. Did you mean “flash”?',
    ],
    [
      'redirect with a text',
      async () => (await (await loose({})).exchange(request())).redirect('/', 'Saved' as never),
      'The options of redirect',
    ],
    [
      'redirect with a status',
      async () => (await (await loose({})).exchange(request())).redirect('/', { status: 200 } as never),
      'Give 301, 302, 303, 307 or 308.',
    ],
    [
      'redirectToReferrer',
      async () =>
        (await (await loose({})).exchange(request())).redirectToReferrer('/', { flash: { txt: 'x' } } as never),
      'There is no option “flash.txt” of redirect. Did you mean “text”?',
    ],
    [
      'flash',
      async () => (await (await loose({})).exchange(request())).flash({ message: 'x' } as never),
      'The message of flash(…) cannot be an object. Give text or an object with text',
    ],
    [
      'nodeListener',
      () => nodeListener(() => new Response(), { standard: true } as never),
      'no option “standard” of nodeListener',
    ],
    [
      'nodeListener without a function',
      () => nodeListener({} as never),
      'What was given to nodeListener is not a function.',
    ],
    ['effectiveMethodMiddleware', () => effectiveMethodMiddleware({ orign: 'x' } as never), 'Did you mean “origin”?'],
    ['closeOnSignals', () => closeOnSignals(createServer(), { timeout: '5' } as never), 'Give a number, 0 or more.'],
  ];
  test.each(wrong)('%s', async (_name, call, message) => {
    await expect((async () => call())()).rejects.toThrow(message);
  });

  test('respond answers with an error, and logs it', async () => {
    const errors: unknown[] = [];
    const logger = { warn() {}, error: (details: object) => errors.push((details as { err: Error }).err.message) };
    const loom = await loose({ logger });
    const response = await loom.respond(request(), 'home', {}, { statuss: 404 } as never);
    expect(response.status).toBe(500);
    expect(errors).toEqual(['There is no option “statuss” of respond. Did you mean “status”?']);
  });
});
