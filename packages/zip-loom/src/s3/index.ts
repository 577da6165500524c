/** `zip-loom/s3`: uploads in an S3 bucket, for sites of several machines. Takes `@aws-sdk/client-s3`. */
import { randomBytes } from 'node:crypto';
import {
  DeleteObjectCommand,
  GetObjectCommand,
  HeadObjectCommand,
  PutObjectCommand,
  type S3Client,
} from '@aws-sdk/client-s3';
import { isUploadKey, type StoredUpload, type UploadStore } from '../forms/index.ts';
import { putInParts } from './parts.ts';
import { sweep } from './sweep.ts';

/** Which bucket files are kept in. */
export interface S3StoreOptions {
  /** Of the package `@aws-sdk/client-s3`, with the region and the credentials. */
  client: S3Client;
  /** The name of the bucket. */
  bucket: string;
  /** Start of the objects' keys. Default: `uploads/`. */
  prefix?: string;
}

/** Bytes of a part. All but the last must be of 5 MiB at least; so much of an upload is in memory. */
const partSize = 8 * 2 ** 20;

/**
 * A store in a bucket.
 * @example createLoom({ templates, uploads: s3Store({ client: new S3Client({ region: 'eu-west-1' }), bucket: 'harbour' }) })
 */
export function s3Store({ client, bucket, prefix = 'uploads/' }: S3StoreOptions): UploadStore {
  const place = (key: string) => ({ Bucket: bucket, Key: prefix + key });
  return {
    async put(content, { type }) {
      const key = randomBytes(24).toString('base64url');
      const pieces = content[Symbol.asyncIterator]();
      const first = await readPart(pieces);
      const target = { ...place(key), ContentType: type };
      // What fits into one part is one object; the next part tells that it does.
      const second = first.length < partSize ? undefined : await readPart(pieces);
      if (second) await putInParts(client, target, [first, second], () => readPart(pieces));
      else await client.send(new PutObjectCommand({ ...target, Body: first }));
      return key;
    },
    async get(key): Promise<StoredUpload | undefined> {
      if (!isUploadKey(key)) return undefined;
      try {
        const { ContentLength: size = 0 } = await client.send(new HeadObjectCommand(place(key)));
        return { size, stream: () => contentOf(client, place(key), size) };
      } catch (error) {
        if (isMissing(error)) return undefined;
        throw error;
      }
    },
    async remove(key) {
      if (isUploadKey(key)) await client.send(new DeleteObjectCommand(place(key)));
    },
    sweep: (age) => sweep(client, { bucket, prefix }, age),
  };
}

/** The next part, which is shorter only at the end. An iterator that has failed says so here. */
async function readPart(pieces: AsyncIterator<Uint8Array>): Promise<Uint8Array> {
  const collected: Uint8Array[] = [];
  let size = 0;
  while (size < partSize) {
    const { done, value } = await pieces.next();
    if (done) break;
    collected.push(value);
    size += value.byteLength;
  }
  return Buffer.concat(collected);
}

/** Asks for the content when it is read. Ends with an error when the bucket sends more or less than it has promised. */
function contentOf(client: S3Client, place: { Bucket: string; Key: string }, size: number): ReadableStream<Uint8Array> {
  let reader: ReadableStreamDefaultReader<Uint8Array> | undefined;
  let left = size;
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      if (!reader) {
        const { Body } = await client.send(new GetObjectCommand(place));
        if (!Body) throw new Error('The object has no content.');
        reader = (Body.transformToWebStream() as ReadableStream<Uint8Array>).getReader();
      }
      const { done, value } = await reader.read();
      if (value) left -= value.byteLength;
      if (left < 0 || (done && left > 0)) {
        void reader.cancel().catch(() => {});
        throw new Error(`The object ${place.Key} is not as long as the bucket said: ${size} bytes.`);
      }
      if (done) controller.close();
      else controller.enqueue(value);
    },
    cancel: (reason) => reader?.cancel(reason),
  });
}

function isMissing(error: unknown): boolean {
  const { name, $metadata } = error as { name?: string; $metadata?: { httpStatusCode?: number } };
  return name === 'NotFound' || name === 'NoSuchKey' || $metadata?.httpStatusCode === 404;
}
