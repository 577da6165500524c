/** A request’s body → names and values. Nothing that a sender does is an error that is thrown. */

import type { BodyText, IncomingRequest } from '../../http/index.ts';
import type { Limits } from '../limits.ts';
import type { MessageCode } from '../messages/wording.ts';
import { withinLimits as inTime } from '../uploads/limited-body.ts';
import { BodyFault } from '../uploads/parts.ts';
import type { UploadedFile } from '../uploads/uploaded-file.ts';
import { parseURLEncoded } from './url-encoded.ts';

/**
 * A name and its value, in the order of the submission. A number that ECMAScript cannot hold exactly is none any more when it has
 * been read (RFC 8259 §6).
 */
export type Entry = readonly [name: string, value: string, isInexact?: true];

/** A file that was sent for a field, or why it was not taken; neither, where the field takes none. */
export interface FileEntry {
  name: string;
  /** Its sender’s name for it. */
  label: string;
  file?: UploadedFile;
  /** It came with an earlier try, whose receipt proves that its field was shown. */
  isKept?: boolean;
  fault?: { code: MessageCode; limit?: number | undefined };
}

/** What was read of a body, or why it was not, with what was read till then. */
export type Entries =
  | { ok: true; entries: Entry[]; files?: readonly FileEntry[] }
  | {
      ok: false;
      status: 400 | 403 | 408 | 413 | 415;
      reason: MessageCode;
      limit?: number | undefined;
      entries?: Entry[];
      files?: readonly FileEntry[];
    };

/** All values of one name, in their order. */
export function valuesOf({ entries }: { entries: readonly Entry[] }, name: string): string[] {
  const values: string[] = [];
  for (const entry of entries) if (entry[0] === name) values.push(entry[1]);
  return values;
}

/** A body as it came, or why there is none. */
export type Body =
  | { ok: true; type: 'json' | 'url-encoded'; text: string }
  | { ok: true; type: 'parts'; entries: Entry[] }
  | Extract<Entries, { ok: false }>;

type ReadableRequest = Pick<IncomingRequest, 'header' | 'readText' | 'readBytes'>;

/** Reads the body of a request. One whose declared length is beyond the limit can be read again with another limit; any other once. */
export async function readBody(request: ReadableRequest, limits: Limits): Promise<Body> {
  const contentType = request.header('content-type') ?? '';
  const type = contentType.split(';')[0]!.trim().toLowerCase();
  const encoding = request.header('content-encoding');
  if (encoding && encoding.toLowerCase() !== 'identity') return refused(415, 'body-encoded');
  if (type === 'multipart/form-data') return readParts(request, contentType, limits);
  if (type !== 'application/x-www-form-urlencoded' && type !== 'application/json') {
    // RFC 9110 §15.5.16
    return refused(415, 'body-type');
  }
  const body = await request.readText(limits);
  if (!body.ok) return unread(body.reason, limits);
  return { ok: true, type: type === 'application/json' ? 'json' : 'url-encoded', text: body.text };
}

/** Names and values of a body. It may have been read for another form, which takes more. */
export function entriesOf(body: Body, limits: Limits): Entries {
  if (!body.ok) return body;
  if (body.type === 'parts') return withinLimits(body.entries, limits);
  if (isLonger(body.text, limits.body)) return refused(413, 'body-too-large', limits.body);
  return body.type === 'json' ? jsonEntries(body.text, limits) : urlEncodedEntries(body.text, limits);
}

/** Whether a text is of more bytes than that. */
function isLonger(text: string, bytes: number): boolean {
  return text.length > bytes || (text.length * 3 > bytes && new TextEncoder().encode(text).length > bytes);
}

/** Reads the body of a request, once. */
export async function readEntries(request: ReadableRequest, limits: Limits): Promise<Entries> {
  return entriesOf(await readBody(request, limits), limits);
}

/** The texts of a body in parts (RFC 7578), where there is no store for files: a file that was chosen is refused. */
async function readParts(request: ReadableRequest, contentType: string, limits: Limits): Promise<Body> {
  const arriving = request.readBytes();
  if (!arriving) return refused(400, 'body-used');
  const body = inTime(arriving, limits);
  const pieces: Uint8Array[] = [];
  let size = 0;
  try {
    for (let piece = await body.next(); piece; piece = await body.next()) {
      size += piece.byteLength;
      if (size > limits.body) return refused(413, 'body-too-large', limits.body);
      pieces.push(piece);
    }
  } catch (error) {
    if (error instanceof BodyFault) return refused(error.status, error.reason, error.limit);
    throw error;
  } finally {
    body.end();
  }
  try {
    const whole = new Response(new Blob(pieces as BlobPart[]), { headers: { 'content-type': contentType } });
    const entries: Entry[] = [];
    for (const [name, value] of await whole.formData()) {
      if (typeof value === 'string') entries.push([name, value]);
      // HTML §4.10.21.4: a field without a file is sent as an empty one without a name.
      else if (value.name !== '' || value.size > 0) return refused(415, 'body-files');
    }
    return { ok: true, type: 'parts', entries };
  } catch {
    return refused(400, 'body-unreadable');
  }
}

/** What a body that could not be read is to its sender. */
function unread(reason: Extract<BodyText, { ok: false }>['reason'], limits: Limits): Extract<Entries, { ok: false }> {
  switch (reason) {
    case 'too-large':
      return refused(413, 'body-too-large', limits.body);
    case 'late':
      return refused(408, 'body-late');
    case 'cut-off':
      return refused(400, 'body-cut-off');
    case 'used':
      return refused(400, 'body-used');
  }
}

/** Names and values of a query or an URL-encoded body. */
export function urlEncodedEntries(text: string, limits: Limits): Entries {
  const entries = parseURLEncoded(text, limits.fields + 1);
  return withinLimits(entries, limits);
}

function withinLimits(entries: Entry[], limits: Limits): Entries {
  if (entries.length > limits.fields) return refused(413, 'body-too-many', limits.fields);
  if (entries.some(([name]) => name.length > limits.name)) return refused(413, 'name-too-long', limits.name);
  return { ok: true, entries };
}

/** A JSON object binds by the same rules: its leaves become names and values. */
function jsonEntries(text: string, limits: Limits): Entries {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return refused(400, 'body-unreadable');
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return refused(400, 'body-unreadable');
  const entries: Entry[] = [];
  const collect = (item: unknown, name: string, depth: number): void => {
    if (entries.length > limits.fields || depth > limits.depth + 1) return;
    if (Array.isArray(item)) {
      entries.push([`${name}[]`, '']);
      for (const [index, one] of item.entries()) collect(one, `${name}[${index}]`, depth + 1);
    } else if (typeof item === 'object' && item !== null) {
      for (const [key, one] of Object.entries(item)) {
        // A key that could be read as a path must not name another field.
        if (!/[.[\]]/.test(key)) collect(one, name ? `${name}.${key}` : key, depth + 1);
      }
    } else {
      entries.push(isInexact(item) ? [name, String(item), true] : [name, item === null ? '' : String(item)]);
    }
  };
  collect(value, '', 0);
  return withinLimits(entries, limits);
}

/** Beyond this range several numbers are read as the same one. */
function isInexact(item: unknown): boolean {
  return typeof item === 'number' && (Number.isInteger(item) ? !Number.isSafeInteger(item) : !Number.isFinite(item));
}

function refused(status: 400 | 408 | 413 | 415, reason: MessageCode, limit?: number): Extract<Entries, { ok: false }> {
  return { ok: false, status, reason, limit };
}
