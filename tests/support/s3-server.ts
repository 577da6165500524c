/** A small stand-in for S3 over HTTP: objects, uploads in parts, lists; one page of a list has two entries. */
import { createHash, randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';

interface StoredObject {
  bytes: Buffer;
  modified: Date;
  type: string;
}

export interface S3Server {
  address: string;
  objects: Map<string, StoredObject>;
  /** Uploads in parts that were neither completed nor aborted. */
  uploads: Map<string, { key: string; parts: Map<number, Buffer>; initiated: Date; type: string }>;
  /** Lets requests fail whose method and query say so. */
  fails(request: string): boolean;
  /** What is answered instead, as a server does that is broken or hostile. */
  instead(request: string): [content: string, headers?: Record<string, string>] | undefined;
  close(): Promise<void>;
}

export async function openS3(): Promise<S3Server> {
  const server = createServer(async (req, res) => {
    const url = new URL(req.url!, 'http://s3.test');
    const key = decodeURIComponent(url.pathname.split('/').slice(2).join('/'));
    const { searchParams: query } = url;
    const uploadId = query.get('uploadId') ?? '';
    const body = await bodyOf(req);
    const type = req.headers['content-type'] ?? '';
    const send = (status: number, content: string | Buffer = '', headers: Record<string, string> = {}) => {
      res.writeHead(status, { 'content-type': 'application/xml', ...headers });
      res.end(req.method === 'HEAD' ? undefined : content);
    };
    const missing = (code: string) => send(404, `<Error><Code>${code}</Code></Error>`);
    if (!/^AWS4-HMAC-SHA256 Credential=\S+/.test(req.headers.authorization ?? '')) return send(403);
    const what = `${req.method} ${query.has('list-type') ? 'list' : query.has('partNumber') ? 'part' : query.has('uploads') ? 'uploads' : uploadId ? 'upload' : 'object'}`;
    if (self.fails(what)) return send(400, '<Error><Code>EntityTooLarge</Code><Message>no space</Message></Error>');
    const instead = self.instead(what);
    if (instead) return send(200, ...instead);
    switch (what) {
      case 'PUT object':
        self.objects.set(key, { bytes: body, modified: new Date(), type });
        return send(200, '', { etag: etag(body) });
      case 'PUT part':
        if (!self.uploads.has(uploadId)) return missing('NoSuchUpload');
        self.uploads.get(uploadId)!.parts.set(Number(query.get('partNumber')), body);
        return send(200, '', { etag: etag(body) });
      case 'POST uploads': {
        const id = randomUUID();
        self.uploads.set(id, { key, parts: new Map(), initiated: new Date(), type });
        return send(200, `<InitiateMultipartUploadResult><UploadId>${id}</UploadId></InitiateMultipartUploadResult>`);
      }
      case 'POST upload': {
        const upload = self.uploads.get(uploadId);
        if (!upload) return missing('NoSuchUpload');
        const numbers = [...body.toString().matchAll(/<PartNumber>(\d+)/g)].map(([, number]) => Number(number));
        const parts = numbers.map((number) => upload.parts.get(number)!);
        if (parts.slice(0, -1).some(({ length }) => length < 5 * 2 ** 20))
          return send(400, '<Error><Code>EntityTooSmall</Code></Error>');
        self.objects.set(key, { bytes: Buffer.concat(parts), modified: new Date(), type: upload.type });
        self.uploads.delete(uploadId);
        return send(200, '<CompleteMultipartUploadResult><ETag>"x"</ETag></CompleteMultipartUploadResult>');
      }
      case 'DELETE upload':
        self.uploads.delete(uploadId);
        return send(204);
      case 'DELETE object':
        self.objects.delete(key);
        return send(204);
      case 'GET uploads': {
        const list = [...self.uploads].map(
          ([id, one]) =>
            `<Upload><Key>${one.key}</Key><UploadId>${id}</UploadId><Initiated>${one.initiated.toISOString()}</Initiated></Upload>`,
        );
        return send(200, `<ListMultipartUploadsResult>${list.join('')}</ListMultipartUploadsResult>`);
      }
      case 'GET list':
        return send(200, listOf(self.objects, query));
      default: {
        const found = self.objects.get(key);
        if (!found) return missing('NoSuchKey');
        return send(200, found.bytes, { 'content-type': found.type, 'content-length': String(found.bytes.length) });
      }
    }
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const self: S3Server = {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    objects: new Map(),
    uploads: new Map(),
    fails: () => false,
    instead: () => undefined,
    close: () => {
      server.closeAllConnections();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
  return self;
}

function listOf(objects: S3Server['objects'], query: URLSearchParams): string {
  const last = query.get('continuation-token') ?? '';
  const all = [...objects].filter(([key]) => key.startsWith(query.get('prefix') ?? '') && key > last);
  const page = all.sort(([a], [b]) => (a < b ? -1 : 1)).slice(0, 2);
  const next = page.length < all.length ? `<NextContinuationToken>${page.at(-1)![0]}</NextContinuationToken>` : '';
  const entries = page.map(
    ([key, { modified }]) =>
      `<Contents><Key>${key}</Key><LastModified>${modified.toISOString()}</LastModified></Contents>`,
  );
  return `<ListBucketResult>${entries.join('')}${next}</ListBucketResult>`;
}

function etag(bytes: Buffer): string {
  return `"${createHash('md5').update(bytes).digest('hex')}"`;
}

/** A body, also one in chunks with signatures and checksums of their own. */
async function bodyOf(req: IncomingMessage): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of req) pieces.push(piece as Buffer);
  const all = Buffer.concat(pieces);
  if (!String(req.headers['content-encoding'] ?? '').includes('aws-chunked')) return all;
  const chunks: Buffer[] = [];
  for (let at = 0; ; ) {
    const end = all.indexOf('\r\n', at);
    const length = Number.parseInt(all.subarray(at, end).toString(), 16);
    if (!length) return Buffer.concat(chunks);
    chunks.push(all.subarray(end + 2, end + 2 + length));
    at = end + 4 + length;
  }
}
