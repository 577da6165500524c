/** The request that a form makes (HTML §4.10.21.3 “form submission algorithm”). */
import { type Entry, entryList } from './controls.ts';
import { attribute, type Document } from './document.ts';
import type { Filled } from './fill.ts';
import type { PageRequest } from './page-request.ts';

/** @throws {Error} for a form that no browser sends */
export function submission({ form, submitter, given }: Filled, document: Document, base: URL): PageRequest {
  const said = (name: string) => (submitter && attribute(submitter, `form${name}`)) ?? attribute(form, name) ?? '';
  const method = said('method').toLowerCase();
  if (method === 'dialog') throw new Error('This form closes its dialog in the browser, and sends nothing.');
  const url = new URL(said('action').trim(), base);
  const entries = entryList(form, document, submitter, given);
  if (method !== 'post') {
    url.search = String(new URLSearchParams(textsOf(entries)));
    return { url, method: 'GET' };
  }
  switch (said('enctype').toLowerCase()) {
    case 'multipart/form-data': {
      const boundary = `----zip-loom-${crypto.randomUUID()}`;
      const type = `multipart/form-data; boundary=${boundary}`;
      return { url, method: 'POST', body: multipartBody(entries, boundary), type };
    }
    case 'text/plain':
      return {
        url,
        method: 'POST',
        body: textsOf(entries)
          .map(([name, value]) => `${name}=${value}\r\n`)
          .join(''),
        type: 'text/plain',
      };
    default:
      return { url, method: 'POST', body: new URLSearchParams(textsOf(entries)) };
  }
}

/** Without the right encoding of files only their names are sent. */
function textsOf(entries: readonly Entry[]): Array<[string, string]> {
  return entries.map(([name, value]) => [name, typeof value === 'string' ? value : value.name]);
}

/** HTML §4.10.21.8 “multipart/form-data encoding algorithm”. */
function multipartBody(entries: readonly Entry[], boundary: string): Blob {
  const escaped = (text: string) => text.replace(/\r/g, '%0D').replace(/\n/g, '%0A').replace(/"/g, '%22');
  const parts = entries.flatMap(([name, value]): Array<string | Blob> => {
    const head = `--${boundary}\r\nContent-Disposition: form-data; name="${escaped(name)}"`;
    if (typeof value === 'string') return [`${head}\r\n\r\n${value}\r\n`];
    const type = value.type || 'application/octet-stream';
    return [`${head}; filename="${escaped(value.name)}"\r\nContent-Type: ${type}\r\n\r\n`, value, '\r\n'];
  });
  return new Blob([...parts, `--${boundary}--\r\n`]);
}
