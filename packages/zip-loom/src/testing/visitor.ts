/** A visitor of a site, with the cookies of one. */
import { type Application, handlerOf } from './application.ts';
import { CookieJar } from './cookies.ts';
import type { FormValues, SubmitOptions } from './fill.ts';
import { newPage, type Page } from './page.ts';
import type { PageRequest } from './page-request.ts';

/** Where relative URLs lead. Browsers trust this host as one with TLS. */
const site = 'http://localhost';

/** As many redirects as browsers follow (Fetch §4.4). */
const mostRedirects = 20;

/** One browser: it keeps cookies and goes from page to page. */
export interface Visitor {
  /** Asks for a page, and follows redirects. */
  visit(url: string): Promise<Page>;
  /** Asks for a page, fills its form in as a browser would, and sends it; gives the page that comes of it. */
  submit(url: string, values?: FormValues, options?: SubmitOptions): Promise<Page>;
}

/**
 * A visitor who keeps cookies from page to page, as one who is signed in.
 * @throws {TypeError} for what answers no requests
 * @example
 * const esme = createVisitor(app);
 * await esme.submit('/sign-in', { email: 'esme@tern.example', password: 'low-water' });
 * const page = await esme.submit('/boats/new', { name: 'Tern' });
 */
export function createVisitor(application: Application): Visitor {
  const handler = handlerOf(application);
  const jar = new CookieJar();
  const ask = async (request: PageRequest, from: Page | undefined): Promise<Page> => {
    let { url, method, body, type } = request;
    const origin = url.origin;
    for (let redirects = 0; ; redirects++) {
      const referrer = from && new URL(from.url, origin).href;
      const response = await handler(requestFor({ url, method, body, type }, jar, referrer));
      jar.take(response);
      const target = response.headers.get('location');
      if (target === null || response.status < 300 || response.status > 399)
        return newPage(response, await response.text(), { location: url, site: origin, ask });
      if (redirects === mostRedirects) throw new Error(`${url.href} redirects round in a circle.`);
      const next = new URL(target, url);
      // A URL keeps its fragment where the redirect names none (Fetch §4.4).
      if (next.hash === '') next.hash = url.hash;
      url = next;
      // Another site is not ours to ask.
      if (url.origin !== origin) return newPage(response, '', { location: url, site: origin, ask });
      const isPost = method === 'POST' && response.status <= 302;
      if (isPost || (response.status === 303 && method !== 'GET')) [method, body, type] = ['GET', undefined, undefined];
    }
  };
  const visit = (url: string) => ask({ url: new URL(url, site), method: 'GET' }, undefined);
  return {
    visit,
    submit: async (url, values, options) => (await visit(url)).submit(values, options),
  };
}

function requestFor({ url, method, body, type }: PageRequest, jar: CookieJar, referrer: string | undefined): Request {
  const headers = new Headers({
    accept: 'text/html,application/xhtml+xml,*/*;q=0.8',
    'sec-fetch-site': referrer === undefined ? 'none' : 'same-origin',
    'sec-fetch-mode': 'navigate',
    'sec-fetch-dest': 'document',
  });
  const cookie = jar.header(url);
  if (cookie !== '') headers.set('cookie', cookie);
  if (referrer !== undefined) headers.set('referer', referrer);
  if (type !== undefined) headers.set('content-type', type);
  if (method === 'POST') headers.set('origin', url.origin);
  const sent = new URL(url);
  sent.hash = '';
  return new Request(sent, { method, headers, body: body ?? null });
}

/**
 * Asks for one page, as a visitor who has never been here.
 * @example expect((await visit(app, '/about')).title).toBe('About');
 */
export function visit(application: Application, url: string): Promise<Page> {
  return createVisitor(application).visit(url);
}

/**
 * Gets a page, fills its form in as a browser would and sends it, as a visitor who has never been here.
 * @throws {Error} for a form, a field, a choice or a button that the page does not have
 * @example
 * const page = await submit(app, '/boats/new', { name: 'Tern', photo: new File([bytes], 'tern.png') });
 * expect(page.heading).toBe('Tern');
 */
export function submit(
  application: Application,
  url: string,
  values?: FormValues,
  options?: SubmitOptions,
): Promise<Page> {
  return createVisitor(application).submit(url, values, options);
}
