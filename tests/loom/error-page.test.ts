/** Pages for errors, by status: in the look of the site for people, as text for programs and for the client. */
import { describe, expect, test } from '@jest/globals';
import { createLoom, type Exchange, type LoomOptions } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';

const site = 'http://harbour.test';
const own =
  '<meta (layout site-layout) (takes status, title, text, number)><h1>${title}</h1><p>${status}: ${text}</p><p (if number)>No. ${number}</p>';
const sources = {
  'layouts/site-layout.html': '<!doctype html><title>Harbour</title><main><slot></slot></main>',
  'pages/error.html': own,
  'pages/home.html': '<p>home</p>',
  'pages/broken.html': '<p>${null.x}</p>',
};
const boat = defineForm('boat', z.object({ name: z.string().min(2) }));

interface Asking {
  method?: string;
  headers?: Record<string, string>;
  body?: string;
}

async function answer(
  respond: (exchange: Exchange) => Response | Promise<Response>,
  { method = 'GET', headers = {}, body }: Asking = {},
  options: LoomOptions = {},
) {
  const loom = await createLoom({ sources, errorPage: 'error', secret, logger: quietLogger, ...options });
  const request = new Request(`${site}/x`, {
    method,
    headers: { accept: 'text/html,*/*;q=0.8', ...headers },
    body: body ?? null,
  });
  const response = await respond(await loom.exchange(request));
  return { status: response.status, headers: response.headers, text: await response.text() };
}

describe('for people', () => {
  test.each([400, 401, 403, 404, 405, 408, 409, 410, 413, 415, 418, 422, 429, 500, 503, 599])('%i', async (status) => {
    const { status: got, headers, text } = await answer((exchange) => exchange.errorPage(status));
    expect([got, headers.get('content-type'), headers.get('cache-control')]).toEqual([
      status,
      'text/html; charset=utf-8',
      'no-store',
    ]);
    expect(text).toMatch(new RegExp(`<title>Harbour</title><main><h1>[^<]+</h1><p>${status}: [^<]+</p></main>`));
  });

  test('a text and headers of the handler', async () => {
    const { text, headers } = await answer((exchange) =>
      exchange.errorPage(405, { text: 'Only <GET>.', headers: { allow: 'GET' } }),
    );
    expect([text.includes('405: Only &lt;GET&gt;.'), headers.get('allow')]).toEqual([true, 'GET']);
  });

  test('in the language of the reader, and without a page of the project', async () => {
    const options = { errorPage: undefined, sources: { 'pages/home.html': 'x' } } as unknown as LoomOptions;
    const german = await answer(
      (exchange) => exchange.errorPage(404),
      {},
      { ...options, locales: ['en', 'de'], context: () => ({ locale: 'de-AT' }) },
    );
    expect(german.text).toMatch(/<html lang="de">[\s\S]*<h1>Seite nicht gefunden<\/h1>/);
    expect((await answer((exchange) => exchange.errorPage(404), {}, options)).text).toContain(
      '<h1>Page not found</h1>',
    );
  });

  test('a page for errors that takes a number alone, or nothing, goes on', async () => {
    for (const page of ['<meta (takes number)>No. ${number}', 'plain']) {
      const { text } = await answer(
        (exchange) => exchange.errorPage(404),
        {},
        { sources: { ...sources, 'pages/error.html': page } },
      );
      expect(text).toMatch(/^(?:No\. |plain)$/);
    }
  });

  test('what fails has a number, and the same page', async () => {
    const { status, text } = await answer((exchange) => exchange.respond('broken' as never));
    expect([status, /<h1>[^<]+<\/h1><p>500: [^<]+<\/p><p>No\. \d{4}-\d{4}<\/p>/.test(text)]).toEqual([500, true]);
  });

  test('one that fails itself', async () => {
    const { status, text } = await answer(
      (exchange) => exchange.errorPage(404),
      {},
      {
        sources: { ...sources, 'pages/error.html': '${null.x}' },
      },
    );
    expect([status, text.includes('<h1>Page not found</h1>')]).toEqual([404, true]);
  });
});

const post = (more: Asking['headers'] = {}): Asking => ({
  method: 'POST',
  headers: { 'content-type': 'application/x-www-form-urlencoded', 'sec-fetch-site': 'cross-site', ...more },
  body: 'name=x',
});

describe('what is refused', () => {
  const refusals: Array<[string, (exchange: Exchange) => Promise<Response>, number]> = [
    ['verify', async (exchange) => (await exchange.verify()).response, 403],
    ['fields', async (exchange) => (await exchange.fields({ only: ['name'] })).response, 403],
    ['read', async (exchange) => (await exchange.read(boat)).response, 403],
    [
      'read, and refused by the handler',
      async (exchange) => (await exchange.read(boat)).refuse('name', 'no').response,
      403,
    ],
  ];
  test.each(refusals)('%s: a page for people, text for programs and for the client', async (_name, respond, status) => {
    const page = await answer(respond, post());
    expect([page.status, page.text.includes('<title>Harbour</title>')]).toEqual([status, true]);
    for (const headers of [{ accept: '*/*' }, { accept: 'application/json' }, { 'loom-region': 'page' }]) {
      const { status: got, headers: said, text } = await answer(respond, post(headers));
      expect([got, said.get('content-type'), text.includes('<')]).toEqual([status, 'text/plain; charset=utf-8', false]);
    }
  });
});

test.each([200, 302, 399, 600, 404.5, '404', undefined])('%p is no status of an error', async (status) => {
  await expect(answer((exchange) => exchange.errorPage(status as never))).rejects.toThrow();
});
