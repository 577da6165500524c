/** The body of a request of Node’s: as text within limits, or as a stream of the Fetch standard. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';
import type { BodyBytes, BodyLimits, BodyText } from '../http/index.ts';
import { parsedBodyText } from './parsed-body.ts';

type Incoming = IncomingMessage | Http2ServerRequest;

/** The body of one request, read whole. */
export class IncomingBody {
  private readonly req: Incoming;
  private readonly chunks: Buffer[] = [];
  private size = 0;
  /** Whether it was begun to be read here, and was too much for whoever asked: another may take more. */
  private isHeld = false;

  constructor(req: Incoming) {
    this.req = req;
  }

  /** Never rejects. What is not read of it, Node throws away. */
  readText(limits: BodyLimits): Promise<BodyText> {
    const { req, chunks } = this;
    if (req.readableDidRead && !this.isHeld) return Promise.resolve(parsedBodyText(req));
    if (Number(req.headers['content-length'] ?? 0) > limits.body || this.size > limits.body)
      return Promise.resolve({ ok: false, reason: 'too-large' });
    this.isHeld = false;
    return new Promise((resolve) => {
      const began = Date.now();
      let last = began;
      /** Milliseconds until the body is late, if nothing more comes. */
      const left = () => Math.min(last + limits.pause, began + limits.duration) - Date.now();
      const finish = (result: BodyText) => {
        clearTimeout(timer);
        req.off('data', onData).off('end', onEnd).off('close', onCut);
        // Whatever fails from now on is nobody’s concern, but an error without a listener would end the process.
        req.off('error', onCut).on('error', () => {});
        this.isHeld = !result.ok && result.reason === 'too-large';
        if (this.isHeld) req.pause();
        else if (!result.ok) req.resume();
        resolve(result);
      };
      const onData = (chunk: Buffer) => {
        chunks.push(chunk);
        this.size += chunk.length;
        last = Date.now();
        if (this.size > limits.body) finish({ ok: false, reason: 'too-large' });
      };
      const onEnd = () => finish({ ok: true, text: textOf(chunks) });
      const onCut = () => finish({ ok: false, reason: 'cut-off' });
      const look = () => {
        // One timer for all: most bodies come at once.
        if (left() <= 0) finish({ ok: false, reason: 'late' });
        else timer = setTimeout(look, left());
      };
      let timer = setTimeout(look, left());
      req.on('data', onData).on('end', onEnd).on('error', onCut).on('close', onCut);
      if (req.destroyed) onCut();
      else if (req.isPaused()) req.resume();
    });
  }

  readBytes(): BodyBytes | undefined {
    const { req } = this;
    return req.readableDidRead ? undefined : bytesOf(req);
  }

  /** Throws away what was held for somebody who would take more. */
  letGo(): void {
    if (this.isHeld) this.req.resume();
  }
}

const decoder = new TextDecoder();

/** UTF-8 decode (Encoding §6): without a byte order mark. */
function textOf(chunks: readonly Buffer[]): string {
  return decoder.decode(chunks.length === 1 ? chunks[0] : Buffer.concat(chunks));
}

/**
 * Bytes at the pace of whoever reads. Nothing of the request is touched before the first is asked for: what nobody reads, Node
 * itself throws away when the answer has been sent. Node may go on feeding a body that was cancelled; then the rest is thrown away.
 */
export function bodyStream(req: Incoming): ReadableStream<Uint8Array> {
  let detach = () => {};
  const begin = (controller: ReadableStreamDefaultController<Uint8Array>) => {
    const onData = (chunk: Uint8Array) => {
      req.pause();
      controller.enqueue(chunk);
    };
    const onEnd = () => {
      detach();
      controller.close();
    };
    const onCut = () => {
      detach();
      controller.error(new Error('The body was cut off.'));
    };
    req.pause();
    req.on('data', onData).on('end', onEnd).on('error', onCut).on('close', onCut);
    detach = () => {
      req.off('data', onData).off('end', onEnd).off('close', onCut);
      // As above.
      req.off('error', onCut).on('error', () => {});
    };
    if (req.destroyed) onCut();
  };
  let hasBegun = false;
  return new ReadableStream<Uint8Array>(
    {
      pull(controller) {
        if (!hasBegun) {
          hasBegun = true;
          begin(controller);
        }
        req.resume();
      },
      cancel() {
        detach();
        req.resume();
      },
    },
    { highWaterMark: 0 },
  );
}

/** So many pieces are held before the sender has to wait. */
const mostHeld = 4;

function bytesOf(req: Incoming): BodyBytes {
  const pieces: Uint8Array[] = [];
  let state: 'coming' | 'ended' | 'cut-off' = 'coming';
  let wake = () => {};
  const onData = (piece: Uint8Array) => {
    pieces.push(piece);
    if (pieces.length >= mostHeld) req.pause();
    wake();
  };
  const onEnd = () => {
    state = 'ended';
    wake();
  };
  const onCut = () => {
    if (state === 'coming') state = 'cut-off';
    wake();
  };
  req.on('data', onData).on('end', onEnd).on('error', onCut).on('close', onCut);
  req.pause();
  if (req.destroyed && !req.readableEnded) onCut();
  return {
    async next() {
      for (;;) {
        const piece = pieces.shift();
        if (piece) {
          if (pieces.length === 0 && state === 'coming') req.resume();
          return piece;
        }
        if (state === 'ended') return undefined;
        if (state === 'cut-off') throw new Error('The body was cut off.');
        const woken = new Promise<void>((resolve) => {
          wake = resolve;
        });
        req.resume();
        await woken;
      }
    },
    end() {
      req.off('data', onData).off('end', onEnd).off('close', onCut);
      // As above.
      req.off('error', onCut).on('error', () => {});
      pieces.length = 0;
      req.resume();
    },
  };
}
