/** The body of a Fetch `Request` as text, within limits of size and time. */
import type { BodyLimits, BodyText } from './incoming.ts';

/**
 * Bodies that say a length up to this many bytes are read in one go, which some servers do much faster. Their pauses cannot be
 * told: all of such a body has to come in the time of one.
 */
const longestAtOnce = 2 ** 14;

/** Never rejects. */
export async function readFetchText(request: Request, limits: BodyLimits): Promise<BodyText> {
  if (request.bodyUsed) return { ok: false, reason: 'used' };
  const length = request.headers.get('content-length');
  if (Number(length ?? 0) > limits.body) return { ok: false, reason: 'too-large' };
  try {
    // RFC 9112 §6.3: beside a transfer encoding a length says nothing.
    const isTelling = length !== null && !request.headers.has('transfer-encoding');
    const atOnce = isTelling && Number(length) <= longestAtOnce;
    return await (atOnce ? readAtOnce(request, limits) : readPieces(request, limits));
  } catch {
    return { ok: false, reason: 'cut-off' };
  }
}

async function readAtOnce(request: Request, limits: BodyLimits): Promise<BodyText> {
  const text = await inTime(request.text(), Math.min(limits.pause, limits.duration));
  if (text === late) return { ok: false, reason: 'late' };
  // Whoever made the request by hand may have said another length.
  const isTooLarge = text.length * 3 > limits.body && encoder.encode(text).length > limits.body;
  return isTooLarge ? { ok: false, reason: 'too-large' } : { ok: true, text };
}

async function readPieces(request: Request, { body: most, pause, duration }: BodyLimits): Promise<BodyText> {
  if (!request.body) return { ok: true, text: '' };
  const reader = request.body.getReader();
  const end = Date.now() + duration;
  const decoder = new TextDecoder();
  let text = '';
  let size = 0;
  let isWhole = false;
  try {
    for (;;) {
      const piece = await inTime(reader.read(), Math.min(pause, end - Date.now()));
      if (piece === late) return { ok: false, reason: 'late' };
      if (piece.done) {
        isWhole = true;
        return { ok: true, text: text + decoder.decode() };
      }
      size += piece.value.byteLength;
      if (size > most) return { ok: false, reason: 'too-large' };
      text += decoder.decode(piece.value, { stream: true });
    }
  } finally {
    // Lets the rest of the body go.
    if (!isWhole) void reader.cancel().catch(() => {});
  }
}

const encoder = new TextEncoder();
const late = Symbol('late');

/** So many turns of the microtask queue bring what is in memory already: most bodies need no timer. */
const turns = 16;

async function inTime<T>(promise: Promise<T>, milliseconds: number): Promise<T | typeof late> {
  let isSettled = false;
  const settle = () => {
    isSettled = true;
  };
  promise.then(settle, settle);
  for (let turn = 0; turn < turns && !isSettled; turn++) await null;
  if (isSettled) return promise;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tooLate = new Promise<typeof late>((resolve) => {
    timer = setTimeout(resolve, Math.max(0, milliseconds), late);
  });
  try {
    return await Promise.race([promise, tooLate]);
  } finally {
    clearTimeout(timer);
  }
}
