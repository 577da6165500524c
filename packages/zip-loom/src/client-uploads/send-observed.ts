/** A request whose way can be watched, which `fetch` cannot yet (Fetch has no progress of what is sent). */
import { type AnswerKind, headers as headerNames } from '../protocol/index.ts';

/** Statuses without content (Fetch §2.2.3): a `Response` with one must have no body. */
const withoutContent = new Set([204, 205, 304]);

/**
 * Sends a form, and gives the answer as `fetch` does.
 * @param cancel rejects with an `AbortError`, as the signal of `init` does
 * @param onProgress told how much has been sent, from 0 to 1
 */
export function sendObserved(
  url: string,
  { method = 'POST', headers, body, signal }: RequestInit & { body: FormData },
  cancel: AbortSignal,
  onProgress: (part: number) => void,
): Promise<Response> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(method, url);
    new Headers(headers).forEach((value, name) => {
      request.setRequestHeader(name, value);
    });
    request.upload.addEventListener('progress', ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0));
    request.upload.addEventListener('load', () => onProgress(1));
    request.addEventListener('readystatechange', () => {
      if (request.readyState !== XMLHttpRequest.HEADERS_RECEIVED) return;
      // Only what was text from the start can be read before all of it is there.
      if (request.getResponseHeader(headerNames.answer) !== ('changes' satisfies AnswerKind))
        request.responseType = 'blob';
      else resolve(responseOf(request, url, textOf(request)));
    });
    request.addEventListener('load', () => resolve(responseOf(request, url, request.response as Blob)));
    request.addEventListener('error', () => reject(new TypeError('The request failed.')));
    request.addEventListener('abort', () => reject(new DOMException('The request was called off.', 'AbortError')));
    for (const one of [cancel, signal]) {
      if (one?.aborted) request.abort();
      one?.addEventListener('abort', () => request.abort());
    }
    request.send(body);
  });
}

/** The text of an answer while it comes. */
function textOf(request: XMLHttpRequest): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let read = 0;
  return new ReadableStream({
    start(controller) {
      const take = () => {
        controller.enqueue(encoder.encode(request.responseText.slice(read)));
        read = request.responseText.length;
      };
      request.addEventListener('progress', take);
      request.addEventListener('load', () => {
        take();
        controller.close();
      });
      for (const name of ['error', 'abort'])
        request.addEventListener(name, () => controller.error(new TypeError('The answer was cut off.')));
    },
  });
}

function responseOf(request: XMLHttpRequest, asked: string, body: Blob | ReadableStream<Uint8Array>): Response {
  const { status, responseURL: url } = request;
  const headers = new Headers();
  for (const line of request.getAllResponseHeaders().trim().split('\r\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) headers.append(line.slice(0, colon), line.slice(colon + 1).trim());
  }
  const content = withoutContent.has(status) ? null : body;
  const response = new Response(content, { status, headers });
  const wanted = new URL(asked, location.href);
  wanted.hash = '';
  return Object.defineProperties(response, { url: { value: url }, redirected: { value: url !== wanted.href } });
}
