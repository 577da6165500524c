/** A request’s body → names and values. Nothing that a sender does is an error that is thrown. */

import type { Limits } from '../limits.ts';
import type { MessageCode } from '../messages.ts';
import { parseURLEncoded } from './url-encoded.ts';

/**
 * A name and its value, in the order of the submission. A number that ECMAScript cannot hold exactly is none any more when it has
 * been read (RFC 8259 §6).
 */
export type Entry = readonly [name: string, value: string, isInexact?: true];

/** What was read of a body, or why it was not. */
export type Entries =
  | { ok: true; entries: Entry[] }
  | { ok: false; status: 400 | 408 | 413 | 415; reason: MessageCode; limit?: number | undefined };

/** Reads the body of a request, once. */
export async function readEntries(request: Request, limits: Limits): Promise<Entries> {
  const type = (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  const encoding = request.headers.get('content-encoding');
  if (encoding && encoding.toLowerCase() !== 'identity') return refused(415, 'body-encoded');
  if (type !== 'application/x-www-form-urlencoded' && type !== 'application/json') {
    // RFC 9110 §15.5.16
    return refused(415, 'body-type');
  }
  if (request.bodyUsed) return refused(400, 'body-used');
  const body = await readBody(request, limits);
  if (!body.ok) return body;
  return type === 'application/json' ? jsonEntries(body.text, limits) : urlEncodedEntries(body.text, limits);
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

type Body = { ok: true; text: string } | Extract<Entries, { ok: false }>;

/** The body as text, within the limits of size and time. Bytes that are not UTF-8 become U+FFFD (URL standard §5.1). */
async function readBody(request: Request, limits: Limits): Promise<Body> {
  const declared = Number(request.headers.get('content-length') ?? 0);
  if (declared > limits.body) return refused(413, 'body-too-large', limits.body);
  if (!request.body) return { ok: true, text: '' };
  const reader = request.body.getReader();
  const end = Date.now() + limits.duration;
  const pieces: Uint8Array[] = [];
  let size = 0;
  let isWhole = false;
  try {
    for (;;) {
      const piece = await inTime(reader.read(), Math.min(limits.pause, end - Date.now()));
      if (piece === 'late') return refused(408, 'body-late');
      if (piece.done) {
        isWhole = true;
        return { ok: true, text: decoder.decode(joined(pieces, size)) };
      }
      size += piece.value.byteLength;
      if (size > limits.body) return refused(413, 'body-too-large', limits.body);
      pieces.push(piece.value);
    }
  } catch {
    return refused(400, 'body-cut-off');
  } finally {
    // Lets the rest of the body go.
    if (!isWhole) void reader.cancel().catch(() => {});
  }
}

const decoder = new TextDecoder();

function joined(pieces: readonly Uint8Array[], size: number): Uint8Array {
  if (pieces.length === 1) return pieces[0]!;
  const whole = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** So many turns of the microtask queue bring what is in memory already: most bodies need no timer. */
const turns = 16;

async function inTime<T>(promise: Promise<T>, milliseconds: number): Promise<T | 'late'> {
  let isSettled = false;
  const settle = () => {
    isSettled = true;
  };
  promise.then(settle, settle);
  for (let turn = 0; turn < turns && !isSettled; turn++) await null;
  if (isSettled) return promise;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<'late'>((resolve) => {
    timer = setTimeout(resolve, Math.max(0, milliseconds), 'late');
  });
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(timer);
  }
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
