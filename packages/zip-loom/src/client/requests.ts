/** One request to the server: what the browser says of its page, what comes back. */
import {
  type AnswerKind,
  headers as names,
  pageAttribute,
  writeDigests,
  writePageName,
  writeRegionNames,
} from '../protocol/index.ts';
import type { Failure } from './failures.ts';
import { type PageState, regionsOf } from './page.ts';

/** Sends a request, and gives its answer, as `fetch` does. One that the visitor calls off rejects with an `AbortError`. */
export type Send = (url: string, init: RequestInit, sending: Sending) => Promise<Response>;

/** What a request is sent for. */
export interface Sending {
  /** The form that is sent, if one is. */
  form: HTMLFormElement | undefined;
  /** Says that something of the request has been sent: it is not late. */
  alive(): void;
}

export interface Ask {
  /** The region that the visitor acted in, or `page`. */
  region: string;
  /** The only regions that are wanted. */
  only?: readonly string[] | undefined;
  url: string;
  method?: string;
  body?: BodyInit | undefined;
  signal: AbortSignal;
  /** What sends it. */
  send?: Send | undefined;
  form?: HTMLFormElement | undefined;
  /** Told when something of it has been sent. */
  alive?: () => void;
  /** Milliseconds after which a request that changes nothing is given up. */
  limit: number;
}

/** What came back, as far as it concerns the page. */
export type Reply =
  /** Regions that differ, another page, or a page of somebody who knows nothing of us. */
  | {
      kind: 'parts' | 'page' | 'foreign-page';
      text: string;
      url: string;
      status: number;
      isGET: boolean;
    }
  /** Changes that are still to come. `stop` gives them up. */
  | { kind: 'changes'; response: Response; url: string; status: number; isGET: boolean; stop(): void }
  /** The browser goes there itself. */
  | { kind: 'navigate'; url: string }
  /** Nothing to show: no content, or a file that the browser has. */
  | { kind: 'nothing' }
  | { kind: 'failure'; code: Failure['code']; status?: number; details?: string | null };

/** An answer with something to show. */
export type Shown = Extract<Reply, { text: string }>;

export type Failed = Extract<Reply, { kind: 'failure' }>;

/** Longer headers might not be taken by a server. */
export const longestHeader = 4000;

/** Sends a request with the headers that describe the page. Never throws but for an abort. */
export async function ask(
  page: Pick<PageState, 'name' | 'mark' | 'digests' | 'base'>,
  { region, only, url, method = 'GET', body, signal, limit, send = fetch, form, alive = () => {} }: Ask,
): Promise<Reply> {
  const headers = new Headers({
    accept: 'text/html',
    [names.region]: region,
    [names.page]: writePageName(page.name),
  });
  const digests = new Map(page.digests);
  const isSafe = method === 'GET';
  // After a form was sent its region is wanted whatever it shows, as when a comment box is to be empty again.
  if (!isSafe) digests.delete(region);
  let list = writeDigests(digests);
  if (list.length > longestHeader) {
    // Without a list everything is sent.
    const lists = await import('./long-lists/index.ts').catch(() => undefined);
    list = lists?.writeFolded(digests, regionsOf(page.base, page.mark), longestHeader) ?? '';
  }
  headers.set(names.digests, list);
  if (only) headers.set(names.only, writeRegionNames(only));
  const controller = new AbortController();
  const stop = () => controller.abort();
  signal.addEventListener('abort', stop);
  if (signal.aborted) stop();
  const timer = isSafe ? setTimeout(stop, limit) : undefined;
  const init: RequestInit = {
    method,
    headers,
    body: body ?? null,
    credentials: 'same-origin',
    signal: controller.signal,
  };
  try {
    return await read(await send(url, init, { form, alive }), isSafe, stop);
  } catch (error) {
    if (signal.aborted) throw error;
    if (controller.signal.aborted) return { kind: 'failure', code: 'late' };
    if ((error as Error).name === 'AbortError') return { kind: 'nothing' };
    // A redirect to another site cannot be followed by a script; the browser can.
    const isRedirect = isSafe && (await fetch(url, { ...init, redirect: 'manual' }).catch(() => undefined))?.type;
    return isRedirect === 'opaqueredirect' ? { kind: 'navigate', url } : { kind: 'failure', code: 'unreachable' };
  } finally {
    clearTimeout(timer);
    signal.removeEventListener('abort', stop);
  }
}

async function read(response: Response, isSafe: boolean, stop: () => void): Promise<Reply> {
  const { status, url } = response;
  const said = (name: string) => response.headers.get(name) ?? '';
  const elsewhere = said(names.elsewhere);
  // A place that is no page is not followed.
  if (elsewhere) return { kind: 'navigate', url: /^https?:/i.test(elsewhere) ? elsewhere : url };
  // The method of the last request: a form that was redirected ends in a page that can be asked for again (Fetch §4.4).
  const isGET = isSafe || response.redirected;
  if (new URL(url).origin !== location.origin) return { kind: 'navigate', url };
  const answer = said(names.answer) as AnswerKind | '';
  if (status >= 500 && answer !== 'error') return { kind: 'failure', code: 'status', status };
  // The visitor has signed out elsewhere: what was typed must not give way to a page that says so.
  if (!isSafe && answer !== 'parts' && answer !== 'changes' && (status === 401 || status === 403))
    return { kind: 'failure', code: 'forbidden', status };
  if (answer === 'none') return { kind: 'navigate', url };
  if (status === 204 || status === 205) return { kind: 'nothing' };
  const isSandboxed = /(^|[;,])\s*sandbox\b/i.test(said('content-security-policy'));
  const isPage =
    /^text\/html *(;|$)/i.test(said('content-type')) && !/^\s*attachment/i.test(said('content-disposition'));
  if (isSandboxed || !isPage) {
    if (status >= 400) return { kind: 'failure', code: 'status', status };
    const files = await import('./files/index.ts').catch(() => undefined);
    return files?.handOver(response, isSafe, isSandboxed) ?? { kind: 'navigate', url };
  }
  if (answer === 'changes') return { kind: answer, response, url, status, isGET, stop };
  const text = await response.text();
  const kind = answer === 'parts' ? 'parts' : answer === 'page' || answer === 'error' ? 'page' : 'foreign-page';
  if (isWhole(text, said('content-length'))) return { kind, text, url, status, isGET };
  return kind === 'foreign-page' && isSafe ? { kind: 'navigate', url } : { kind: 'failure', code: 'cut' };
}

const endsWithList = new RegExp(`<template ${pageAttribute}="[^"]*"[^>]*></template>\\s*$`);

/**
 * Not every browser says when an answer was cut off. What proves that it was not: its length, its list, its last tag. A document has
 * that of `<html>`; what has no such element may end with any.
 */
function isWhole(text: string, length: string): boolean {
  const lastTag = text.slice(text.lastIndexOf('<')).trimEnd();
  return (
    endsWithList.test(text) ||
    (/<html\b/i.test(text) ? /^<\/html>$/i : /^<\/[a-z][^>]*>$/i).test(lastTag) ||
    (length !== '' && new TextEncoder().encode(text).length === Number(length))
  );
}
