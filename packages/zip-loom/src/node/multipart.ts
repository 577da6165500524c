/** `multipart/form-data` (RFC 7578), one part after another: no more of a body is read than its reader asks for. */
import busboy, { type Busboy } from 'busboy';
import { BodyFault, type Limits, type Part, type PartContent, type Parts } from '../forms/index.ts';
import type { BodyBytes } from '../http/index.ts';

export function readParts(body: BodyBytes, contentType: string, limits: Limits): Parts {
  const parser = parserFor(contentType, limits);
  return parser ? new PulledParts(body, parser, limits) : withoutBoundary(body);
}

/** What no boundary divides has no parts. */
function withoutBoundary(body: BodyBytes): Parts {
  return { next: () => Promise.reject(new BodyFault(400, 'body-unreadable')), end: () => body.end() };
}

/** What pushes parts is fed a piece at a time, when somebody waits for more. */
class PulledParts implements Parts {
  private readonly body: BodyBytes;
  private readonly parser: Busboy;
  private readonly waiting: Part[] = [];
  private fault: BodyFault | undefined;
  private isDone = false;

  constructor(body: BodyBytes, parser: Busboy, limits: Limits) {
    this.body = body;
    this.parser = parser;
    this.parser
      .on('field', (name: string | undefined, value, { nameTruncated, valueTruncated }) => {
        if (valueTruncated) this.fault ??= new BodyFault(413, 'body-too-large', limits.body);
        if (nameTruncated) this.fault ??= new BodyFault(413, 'name-too-long', limits.name);
        if (name !== undefined && !this.fault) this.waiting.push({ kind: 'text', name, value });
      })
      .on(
        'file',
        (name: string | undefined, stream, { filename, mimeType }: { filename?: string; mimeType: string }) => {
          const content = new PushedContent(stream, () => this.feed());
          // A part without a name is nobody’s.
          if (name === undefined) stream.removeAllListeners('data').resume();
          else this.waiting.push({ kind: 'file', name, label: filename ?? '', type: mimeType, content });
        },
      )
      .on('partsLimit', () => {
        this.fault ??= new BodyFault(413, 'body-too-many', limits.fields);
      })
      .on('error', (error) => {
        const isCut = error instanceof Error && error.message.startsWith('Unexpected end');
        this.fault ??= new BodyFault(400, isCut ? 'body-cut-off' : 'body-unreadable');
      })
      .on('close', () => {
        this.isDone = true;
      });
  }

  async next(): Promise<Part | undefined> {
    for (;;) {
      const part = this.waiting.shift();
      if (part) return part;
      if (!(await this.feed())) return undefined;
    }
  }

  end(): void {
    if (!this.parser.destroyed) this.parser.destroy();
    this.body.end();
  }

  /** Hands one piece of the body on; false where there is none. What is wrong is told after what came before it. */
  private async feed(): Promise<boolean> {
    if (this.fault) throw this.fault;
    if (this.isDone || this.parser.writableEnded) return false;
    const piece = await this.body.next();
    if (piece) await this.write(piece);
    else await this.finish();
    return true;
  }

  /** Most pieces are parsed at once; one whose content waits for its listener takes a turn. */
  private write(piece: Uint8Array): Promise<void> | undefined {
    const { parser } = this;
    let done = () => {};
    parser.write(piece, () => done());
    if (parser.writableLength === 0) return undefined;
    return new Promise((resolve) => {
      done = resolve;
      parser.once('close', resolve);
    });
  }

  private finish(): Promise<void> {
    return new Promise((resolve) => {
      this.parser.once('close', resolve).end();
    });
  }
}

/** The content of a file, as far as it was pushed. */
class PushedContent implements PartContent {
  private readonly pieces: Uint8Array[] = [];
  private readonly feed: () => Promise<boolean>;
  private isDone = false;

  constructor(stream: NodeJS.ReadableStream, feed: () => Promise<boolean>) {
    this.feed = feed;
    const end = () => {
      this.isDone = true;
    };
    stream
      .on('data', (piece: Buffer) => this.pieces.push(piece))
      .on('end', end)
      // What is wrong is told by the parser.
      .on('error', end);
  }

  async next(): Promise<Uint8Array | undefined> {
    for (;;) {
      const piece = this.pieces.shift();
      if (piece) return piece;
      if (this.isDone || !(await this.feed())) return undefined;
    }
  }
}

function parserFor(contentType: string, { body, fields, files, name }: Limits): Busboy | undefined {
  try {
    return busboy({
      headers: { 'content-type': contentType },
      defParamCharset: 'utf8',
      highWaterMark: 2 ** 16,
      fileHwm: 2 ** 16,
      limits: { fieldSize: body, fieldNameSize: 4 * name, parts: fields + files + 1 },
    });
  } catch {
    return undefined;
  }
}
