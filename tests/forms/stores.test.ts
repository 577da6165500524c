/** What every store of uploads promises: one suite for each of them. */
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { S3Client } from '@aws-sdk/client-s3';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { defineForm, type UploadStore } from 'zip-loom/forms';
import { uploadFolder } from 'zip-loom/node';
import { s3Store } from 'zip-loom/s3';
import { createVisitor } from 'zip-loom/testing';
import { z } from 'zod';
import { png } from '../support/multipart.ts';
import { openS3, type S3Server } from '../support/s3-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const info = { name: 'a.bin', type: 'application/octet-stream' };

async function* pieces(bytes: Uint8Array, size = 65_536): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

async function* failing(length: number): AsyncGenerator<Uint8Array> {
  yield* pieces(new Uint8Array(length));
  throw new Error('cut off');
}

/** A store that a test has made, and what is in it. */
interface Made {
  /** What `uploads` of a loom is given. */
  option: string | UploadStore;
  store: UploadStore;
  keys(): string[];
  /** Makes everything in it older. */
  age(): void;
}

let folder: string;
let s3: S3Server;
let client: S3Client;
beforeAll(async () => {
  s3 = await openS3();
  client = new S3Client({
    endpoint: s3.address,
    region: 'eu-west-1',
    forcePathStyle: true,
    credentials: { accessKeyId: 'tern', secretAccessKey: 'harbour' },
    maxAttempts: 1,
  });
});
afterAll(async () => {
  client?.destroy();
  await s3?.close();
});
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-test-'));
  s3.objects.clear();
  s3.uploads.clear();
  s3.fails = () => false;
  s3.instead = () => undefined;
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const stores: Array<[name: string, make: () => Promise<Made>]> = [
  [
    'a folder',
    async () => {
      const uploads = join(folder, 'uploads');
      return {
        option: uploads,
        store: uploadFolder(uploads),
        keys: () => namesIn(uploads),
        age: () => {
          for (const name of namesIn(uploads)) utimesSync(join(uploads, name), 1, 1);
        },
      };
    },
  ],
  [
    'S3',
    async () => {
      const store = s3Store({ client, bucket: 'harbour' });
      return {
        option: store,
        store,
        keys: () => [...[...s3.objects.keys()].map((key) => key.replace('uploads/', '')), ...s3.uploads.keys()],
        age: () => {
          for (const one of s3.objects.values()) one.modified = new Date(0);
          for (const one of s3.uploads.values()) one.initiated = new Date(0);
        },
      };
    },
  ],
];

function namesIn(path: string): string[] {
  try {
    return readdirSync(path);
  } catch {
    return [];
  }
}

describe.each(stores)('%s', (_name, make) => {
  let made: Made;
  beforeEach(async () => {
    made = await make();
  });

  test.each([0, 1, 65_536, 8 * 2 ** 20, 8 * 2 ** 20 + 1, 17_000_000])('keeps %i bytes', async (length) => {
    const { store } = made;
    const bytes = randomBytes(length);
    const key = await store.put(pieces(bytes), info);
    expect(key).toMatch(/^[\w-]{32}$/);
    const found = await store.get(key);
    const read = Buffer.from(await new Response(found!.stream()).arrayBuffer());
    expect([found!.size, read.equals(bytes)]).toEqual([length, true]);
    // It can be read again.
    expect((await new Response(found!.stream()).arrayBuffer()).byteLength).toBe(length);
    await store.remove(key);
    expect([await store.get(key), made.keys()]).toEqual([undefined, []]);
  });

  test.each([0, 1000, 9_000_000, 20_000_000])('leaves nothing of what is cut off after %i bytes', async (length) => {
    await expect(made.store.put(failing(length), info)).rejects.toThrow('cut off');
    expect(made.keys()).toEqual([]);
  });

  test('knows no keys but its own, and minds none', async () => {
    for (const key of ['', 'x', '../x', 'a'.repeat(32), '/etc/passwd', 'a/'.repeat(16), '\0'.repeat(32)]) {
      expect(await made.store.get(key)).toBeUndefined();
      await made.store.remove(key);
    }
  });

  test('sweeps what is old, and nothing else', async () => {
    const { store } = made;
    for (let count = 0; count < 5; count++) await store.put(pieces(png), info);
    expect([await store.sweep(60_000), made.keys().length]).toEqual([0, 5]);
    made.age();
    const young = await store.put(pieces(png), info);
    expect([await store.sweep(60_000), made.keys()]).toEqual([5, [young]]);
  });

  test('keeps fifty at once', async () => {
    const all = Array.from({ length: 50 }, () => randomBytes(100_000));
    const keys = await Promise.all(all.map((bytes) => made.store.put(pieces(bytes), info)));
    expect(new Set(keys).size).toBe(50);
    for (const [index, key] of keys.entries()) {
      const found = await made.store.get(key);
      expect(Buffer.from(await new Response(found!.stream()).arrayBuffer()).equals(all[index]!)).toBe(true);
    }
  });

  test('serves a form from the first try on one machine to the last on another', async () => {
    const form = defineForm('boat', z.object({ name: z.string().min(2), photo: z.file().mime('image/png').max(1000) }));
    const saved: unknown[] = [];
    const machine = async () => {
      const loom = await createLoom({
        sources: {
          'pages/boat.html':
            '<meta (takes form)><form (bind form) action="/boat" method="post"><form-field name="name" form=${form}></form-field><form-field name="photo" form=${form}></form-field><button>Save</button></form>',
          'pages/done.html': '<h1>Done</h1>',
        },
        secret,
        logger: quietLogger,
        uploads: made.option,
      });
      return async (request: Request) => {
        const exchange = await loom.exchange(request);
        if (request.method !== 'POST') return exchange.respond('boat', { form: form.blank() });
        const sent = await exchange.read(form);
        if (!sent.ok) return exchange.respond('boat', { form: sent });
        const { photo } = sent.value;
        const path = await photo.saveTo(join(folder, 'photos'), { name: 'kept.png' });
        saved.push(
          photo.size,
          photo.type,
          photo.name,
          await photo.sha256(),
          (await photo.arrayBuffer()).byteLength,
          readFileSync(path).equals(png),
        );
        return exchange.respond('done', {});
      };
    };
    const machines = [await machine(), await machine()];
    let asked = 0;
    const visitor = createVisitor((request: Request) => machines[asked++ % 2]!(request));
    const refused = await visitor.submit('/boat', { name: 'T', photo: new File([png], 'tern.png') });
    expect([refused.status, refused.has('tern.png has arrived'), made.keys().length]).toEqual([422, true, 1]);
    const done = await refused.submit({ name: 'Tern' });
    expect([done.heading, saved]).toEqual([
      'Done',
      [png.length, 'image/png', 'tern.png', expect.stringMatching(/^[0-9a-f]{64}$/), png.length, true],
    ]);
    for (const end = Date.now() + 2000; made.keys().length > 0 && Date.now() < end; )
      await new Promise((done) => setTimeout(done, 10));
    expect(made.keys()).toEqual([]);
  });
});

describe('S3', () => {
  test.each(['PUT object', 'POST uploads', 'PUT part', 'POST upload'])(
    'that refuses %s keeps nothing',
    async (what) => {
      s3.fails = (request) => request === what;
      const size = what === 'PUT object' ? 10 : 9_000_000;
      await expect(s3Store({ client, bucket: 'harbour' }).put(pieces(new Uint8Array(size)), info)).rejects.toThrow();
      expect([s3.objects.size, s3.uploads.size]).toEqual([0, 0]);
    },
  );

  test('sweeps uploads that were never completed', async () => {
    const store = s3Store({ client, bucket: 'harbour' });
    s3.fails = (request) => request === 'PUT part' || request === 'DELETE upload';
    await expect(store.put(pieces(new Uint8Array(9_000_000)), info)).rejects.toThrow();
    s3.fails = () => false;
    expect(s3.uploads.size).toBe(1);
    for (const one of s3.uploads.values()) one.initiated = new Date(0);
    await store.sweep(1000);
    expect(s3.uploads.size).toBe(0);
  });

  test('sweeps its own keys alone, and ends, whatever is listed', async () => {
    const store = s3Store({ client, bucket: 'harbour' });
    const modified = new Date(0);
    const others = ['backups/2026.tar', 'uploads/logo.png', `uploads/../${'a'.repeat(32)}`, 'a'.repeat(32)];
    for (const key of others) s3.objects.set(key, { bytes: Buffer.from('x'), modified, type: '' });
    const listed = others.map(
      (key) => `<Contents><Key>${key}</Key><LastModified>1970-01-01T00:00:00Z</LastModified></Contents>`,
    );
    let asked = 0;
    s3.instead = (request) => {
      if (request !== 'GET list') return undefined;
      const next = asked++ < 3 ? `page-${asked}` : 'page-3';
      return [
        `<ListBucketResult>${listed.join('')}<NextContinuationToken>${next}</NextContinuationToken></ListBucketResult>`,
      ];
    };
    expect([await store.sweep(1000), [...s3.objects.keys()]]).toEqual([0, others]);
    let endless = 0;
    s3.instead = (request) =>
      request === 'GET list'
        ? [`<ListBucketResult><NextContinuationToken>${++endless}</NextContinuationToken></ListBucketResult>`]
        : undefined;
    expect([await store.sweep(1000), endless <= 1000]).toEqual([0, true]);
  });

  test.each([
    ['more than it promised', '5', 'x'.repeat(1000)],
    ['less than it promised', '1000', 'x'.repeat(5)],
    ['something without a promise', undefined, 'x'],
  ])('is not believed when it sends %s', async (_name, promised, content) => {
    const store = s3Store({ client, bucket: 'harbour' });
    const key = await store.put(pieces(png), info);
    s3.instead = (request) =>
      request === 'HEAD object'
        ? ['', promised === undefined ? {} : { 'content-length': promised }]
        : request === 'GET object'
          ? [content]
          : undefined;
    const found = await store.get(key);
    await expect(new Response(found!.stream()).arrayBuffer()).rejects.toThrow('as long as');
  });
});
