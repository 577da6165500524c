/** What a body parser that ran before has left of a body. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';
import type { BodyText } from '../http/index.ts';

/** Where parsers leave what they read. */
interface Parsed {
  /** The bytes, where a platform keeps them. */
  rawBody?: unknown;
  /** Text, bytes, or an object of names and values. */
  body?: unknown;
}

/** The body as it was sent, where what was left of it tells that for certain. */
export function parsedBodyText(req: IncomingMessage | Http2ServerRequest): BodyText {
  const { rawBody, body } = req as Parsed;
  const text = textOf(rawBody) ?? textOf(body) ?? parsedText(body, req.headers);
  return text === undefined ? { ok: false, reason: 'used' } : { ok: true, text };
}

function textOf(given: unknown): string | undefined {
  if (typeof given === 'string') return given;
  return given instanceof Uint8Array ? new TextDecoder().decode(given) : undefined;
}

function parsedText(body: unknown, headers: IncomingMessage['headers']): string | undefined {
  if (typeof body !== 'object' || body === null) return undefined;
  const type = headers['content-type'] ?? '';
  if (/^application\/json\b/i.test(type)) return JSON.stringify(body);
  if (!/^application\/x-www-form-urlencoded\b/i.test(type)) return undefined;
  const pairs = pairsOf(body);
  if (!pairs) return undefined;
  const text = new URLSearchParams(pairs).toString();
  // Some parsers make lists and objects of names with brackets. Then the text is another, and shorter.
  const isCertain = Object.values(body).every((value) => typeof value === 'string');
  return isCertain || text.length === Number(headers['content-length']) ? text : undefined;
}

/** Names and values, where there is nothing else in an object. */
function pairsOf(body: object): Array<[string, string]> | undefined {
  const pairs: Array<[string, string]> = [];
  for (const [name, value] of Object.entries(body)) {
    for (const one of Array.isArray(value) ? value : [value]) {
      if (typeof one !== 'string') return undefined;
      pairs.push([name, one]);
    }
  }
  return pairs;
}
