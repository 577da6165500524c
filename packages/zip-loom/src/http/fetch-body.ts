/** The body of a Fetch `Request` as text, within limits of size and time. */
import type { BodyBytes, BodyLimits, BodyText } from './incoming.ts';

/**
 * Bodies that say a length up to this many bytes are read in one go, which some servers do much faster. Their pauses cannot be
 * told: all of such a body has to come in the time of one.
 */
const longestAtOnce = 2 ** 14;

export class FetchBody {
  private readonly request: Request;
  /** What was begun to be read and was too much for whoever asked: another may take more. */
  private begun: Pieces | undefined;

  constructor(request: Request) {
    this.request = request;
  }

  /** Never rejects. */
  async readText(limits: BodyLimits): Promise<BodyText> {
    const { request, begun } = this;
    if (begun) return begun.readText(limits).catch(cutOff);
    if (request.bodyUsed) return { ok: false, reason: 'used' };
    const length = request.headers.get('content-length');
    if (Number(length ?? 0) > limits.body) return { ok: false, reason: 'too-large' };
    // RFC 9112 §6.3: beside a transfer encoding a length says nothing.
    const isTelling = length !== null && !request.headers.has('transfer-encoding');
    if (isTelling && Number(length) <= longestAtOnce) return readAtOnce(request, limits).catch(cutOff);
    if (!request.body) return { ok: true, text: '' };
    this.begun = new Pieces(request.body.getReader());
    return this.begun.readText(limits).catch(cutOff);
  }

  readBytes(): BodyBytes | undefined {
    const { request } = this;
    if (this.begun || request.bodyUsed) return undefined;
    const reader = request.body?.getReader();
    return {
      next: async () => (await reader?.read())?.value,
      end: () => void reader?.cancel().catch(() => {}),
    };
  }

  /** Lets go of what is not read. */
  async letGo(): Promise<void> {
    const { request, begun } = this;
    if (begun) begun.letGo();
    else if (!request.bodyUsed && !request.body?.locked) await request.body?.cancel().catch(() => {});
  }
}

function cutOff(): BodyText {
  return { ok: false, reason: 'cut-off' };
}

async function readAtOnce(request: Request, limits: BodyLimits): Promise<BodyText> {
  const text = await inTime(request.text(), Math.min(limits.pause, limits.duration));
  if (text === late) return { ok: false, reason: 'late' };
  // Whoever made the request by hand may have said another length.
  const isTooLarge = text.length * 3 > limits.body && encoder.encode(text).length > limits.body;
  return isTooLarge ? { ok: false, reason: 'too-large' } : { ok: true, text };
}

/** A body that is read piece by piece. */
class Pieces {
  private readonly reader: ReadableStreamDefaultReader<Uint8Array>;
  private readonly decoder = new TextDecoder();
  private text = '';
  private size = 0;
  /** How it ended, unless it was too much for somebody. */
  private ended: BodyText | undefined;

  constructor(reader: ReadableStreamDefaultReader<Uint8Array>) {
    this.reader = reader;
  }

  /** Rejects where the body is cut off. */
  async readText({ body: most, pause, duration }: BodyLimits): Promise<BodyText> {
    const end = Date.now() + duration;
    while (!this.ended) {
      if (this.size > most) return { ok: false, reason: 'too-large' };
      const piece = await inTime(this.reader.read(), Math.min(pause, end - Date.now()));
      if (piece === late) return this.endWith({ ok: false, reason: 'late' });
      if (piece.done) return this.endWith({ ok: true, text: this.text + this.decoder.decode() });
      this.size += piece.value.byteLength;
      this.text += this.decoder.decode(piece.value, { stream: true });
    }
    return this.ended;
  }

  letGo(): void {
    this.ended ??= { ok: false, reason: 'used' };
    void this.reader.cancel().catch(() => {});
  }

  private endWith(result: BodyText): BodyText {
    if (!result.ok) this.letGo();
    this.ended = result;
    return result;
  }
}

const encoder = new TextEncoder();
const late = Symbol('late');

/** So many turns of the microtask queue bring what is in memory already: most bodies need no timer. */
const turns = 16;

/** What a promise gives, or `late` where it takes longer than so many milliseconds. */
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
