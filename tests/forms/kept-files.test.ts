/** The life of files that were sent: cut off, kept for another try, taken by a handler, refused by a store. */
import {
  chmodSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeEach, describe, expect, jest, test } from '@jest/globals';
import fc from 'fast-check';
import type { Exchange } from 'zip-loom';
import { defineForm, type UploadStore } from 'zip-loom/forms';
import { nodeListener } from 'zip-loom/node';
import { z } from 'zod';
import { type Visitor, visitor } from '../support/exchanges.ts';
import { multipartBody, multipartType, png, type WrittenPart } from '../support/multipart.ts';
import { runs } from '../support/runs.ts';
import { open as openServer } from '../support/servers.ts';

const boatForm = defineForm(
  'boat',
  z.object({
    name: z.string().min(2).max(40),
    photo: z.file().mime(['image/png']),
    papers: z.array(z.file()).max(3).optional(),
  }),
);
const sources = {
  'pages/boat.html':
    '<meta (takes form)><form (bind form) action="/boat" method="post"><form-field name="name" form=${form}></form-field><form-field name="photo" form=${form}></form-field><input name="papers"></form>',
};

const folders: string[] = [];
afterAll(() => {
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

let folder: string;
let one: Visitor;
beforeEach(async () => {
  folder = join(mkdtempSync(join(tmpdir(), 'zip-loom-test-')), 'uploads');
  folders.push(folder);
  one = await openVisitor({ uploads: folder });
});

async function openVisitor(options: object): Promise<Visitor> {
  const other = await visitor(sources, options);
  await other.page((exchange) => exchange.respond('boat', { form: boatForm.blank() }));
  return other;
}

const kept = () => {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
};
const own = (who = one): WrittenPart[] => Object.entries(who.hidden);

function exchangeOf(body: Uint8Array | ReadableStream<Uint8Array>, who = one): Promise<Exchange> {
  const { url, headers } = who.request('', { headers: { 'content-type': multipartType } });
  return who.loom.exchange(
    new Request(url, { method: 'POST', headers, body, duplex: 'half' } as unknown as RequestInit),
  );
}
const send = (parts: readonly WrittenPart[], who = one) => exchangeOf(multipartBody([...own(who), ...parts]), who);

const photo: WrittenPart = ['photo', { name: 'tern.png', type: 'image/png', bytes: png }];
const tern: WrittenPart = ['name', 'Tern'];

/** Sends a form that is refused, and gives the page that shows it again. */
async function refused(parts: readonly WrittenPart[]): Promise<{ page: string; receipts: WrittenPart[] }> {
  const exchange = await send(parts);
  const sent = await exchange.read(boatForm);
  expect(sent.ok).toBe(false);
  const page = await one.keep(await exchange.respond('boat', { form: sent })).text();
  await exchange.end();
  return { page, receipts: receiptsIn(page) };
}

function receiptsIn(page: string): WrittenPart[] {
  return [...page.matchAll(/name="loom-kept" value="([^"]*)"/g)].map(([, value]) => ['loom-kept', value!]);
}

describe('a file for another try', () => {
  test('is kept when the page shows its form again, named there, used once, and then gone', async () => {
    const { page, receipts } = await refused([['name', 'T'], photo]);
    expect(page).toContain('tern.png has arrived and need not be chosen again.');
    expect(page).toMatch(/<input[^>]*type="file"[^>]*>/);
    expect(page.match(/<input[^>]*type="file"[^>]*>/)![0]).not.toContain('required');
    expect(kept()).toHaveLength(1);
    const again = await send([tern, ...receipts]);
    const sent = await again.read(boatForm);
    expect([sent.errors, sent.value?.photo.name, sent.value?.photo.type]).toEqual([{}, 'tern.png', 'image/png']);
    expect(new Uint8Array(await sent.value!.photo.arrayBuffer())).toEqual(png);
    await again.end();
    expect(kept()).toEqual([]);
    const third = await (await send([tern, ...receipts])).read(boatForm);
    expect(third.errors).toEqual({ photo: ['The file that was sent before is gone. Please choose it again.'] });
  });

  test('is there for a next try that comes before the request of this one has ended', async () => {
    const exchange = await send([['name', 'T'], photo]);
    const page = await (await exchange.respond('boat', { form: await exchange.read(boatForm) })).text();
    const again = await send([tern, ...receiptsIn(page)]);
    expect((await again.read(boatForm)).errors).toEqual({});
    await exchange.end();
    await again.end();
    expect(kept()).toEqual([]);
  });

  test('is kept on and on while the form is refused, also when it comes without files', async () => {
    const first = await refused([['name', 'T'], photo]);
    const second = await refused([['name', ''], ...first.receipts]);
    const fields = new URLSearchParams([['name', 'Tern'], ...second.receipts] as Array<[string, string]>);
    const exchange = await one.send(fields);
    const sent = await exchange.read(boatForm);
    expect([sent.ok, sent.value?.photo.size]).toEqual([true, png.length]);
    await exchange.end();
    expect(kept()).toEqual([]);
  });

  test('is kept when a handler refuses what was right', async () => {
    const exchange = await send([tern, photo]);
    const sent = await exchange.read(boatForm);
    const page = await (await exchange.respond('boat', { form: sent.refuse('name', 'Taken.') })).text();
    await exchange.end();
    expect([receiptsIn(page).length, kept().length]).toEqual([1, 1]);
  });

  test('is one person’s at a time, and nobody else’s, and of no other form and field', async () => {
    const { receipts } = await refused([['name', 'T'], photo]);
    const stranger = await openVisitor({ uploads: folder });
    const theirs = await (await send([tern, ...receipts], stranger)).read(boatForm);
    expect(theirs.errors).toHaveProperty('photo');
    const [first, second] = await Promise.all([send([tern, ...receipts]), send([tern, ...receipts])]);
    const both = await Promise.all([first.read(boatForm), second.read(boatForm)]);
    expect(both.map(({ ok }) => ok).sort()).toEqual([false, true]);
    await Promise.all([first.end(), second.end()]);
    const forged = receipts.map(([name, value]): WrittenPart => [name, `${String(value).slice(0, -2)}xx`]);
    const tried = await (await send([tern, ...forged])).read(boatForm);
    expect(tried.errors).toEqual({ photo: ['This field is required.'] });
  });

  test('is taken once, however many tries come at once, in several processes with a slow store', async () => {
    const files = new Map<string, Uint8Array>();
    const slowly = () => pause(Math.random() * 5);
    const uploads: UploadStore = {
      async put(content) {
        const pieces: Uint8Array[] = [];
        for await (const piece of content) pieces.push(piece);
        const key = `key${files.size}`;
        files.set(key, Buffer.concat(pieces));
        return key;
      },
      async get(key) {
        await slowly();
        const bytes = files.get(key);
        return bytes && { size: bytes.length, stream: () => new Blob([bytes as BlobPart]).stream() };
      },
      async remove(key) {
        await slowly();
        files.delete(key);
      },
      sweep: async () => 0,
    };
    const claimed = new Set<string>();
    const idempotency = {
      take: async (key: string) => {
        await slowly();
        return !claimed.has(key) && claimed.add(key) !== undefined;
      },
      release: (key: string) => void claimed.delete(key),
    };
    const processes = await Promise.all([1, 2].map(() => openVisitor({ uploads, idempotency })));
    const [ada, other] = processes as [Visitor, Visitor];
    for (let round = 0; round < 15; round++) {
      const exchange = await send([['name', 'T'], photo], ada);
      const page = await (await exchange.respond('boat', { form: await exchange.read(boatForm) })).text();
      await exchange.end();
      other.cookies = ada.cookies;
      other.hidden = ada.hidden;
      const tries = [ada, other, ada, other].map(async (who, at) => {
        await pause(at * Math.random() * 8);
        const again = await send([tern, ...receiptsIn(page)], who);
        const { ok } = await again.read(boatForm);
        await again.end();
        return ok;
      });
      expect((await Promise.all(tries)).filter(Boolean)).toEqual([true]);
    }
  });

  test('goes when its time has come, also if no other is sent', async () => {
    const timers = jest.spyOn(globalThis, 'setInterval');
    const clock = jest.spyOn(Date, 'now');
    try {
      await refused([['name', 'T'], photo]);
      expect(kept()).toHaveLength(1);
      const tick = timers.mock.calls.at(-1)![0] as () => void;
      tick();
      await pause(20);
      expect(kept()).toHaveLength(1);
      // A sweep of the store by age would come an hour later.
      const later = Date.now() + 3_660_000;
      clock.mockImplementation(() => later);
      tick();
      for (let wait = 0; wait < 100 && kept().length > 0; wait++) await pause(10);
      expect(kept()).toEqual([]);
    } finally {
      clock.mockRestore();
      timers.mockRestore();
    }
  });

  test('is of the form that it was sent with', async () => {
    const { receipts } = await refused([['name', 'T'], photo]);
    const otherForm = defineForm('other', z.object({ photo: z.file().optional() }));
    const exchange = await send([tern, ...receipts]);
    const sent = await exchange.read(otherForm, { only: ['photo'] });
    expect([sent.ok, sent.value]).toEqual([true, {}]);
    await exchange.end();
  });

  test('gives way to a file that is chosen anew, and to the box that removes it', async () => {
    const { receipts } = await refused([['name', 'T'], photo]);
    const bytes = new Uint8Array([...png, 0]);
    const anew: WrittenPart = ['photo', { name: 'new.png', type: 'image/png', bytes }];
    const exchange = await send([tern, ...receipts, anew]);
    expect((await exchange.read(boatForm)).value?.photo.name).toBe('new.png');
    await exchange.end();
    const removed = await (await send([tern, ...receipts, ['loom-remove', 'photo']])).read(boatForm);
    expect(removed.errors).toEqual({ photo: ['This field is required.'] });
  });

  test('is kept when the next try is too large to be read to its end', async () => {
    const { receipts } = await refused([['name', 'T'], photo]);
    const huge: WrittenPart = ['other', 'x'.repeat(2_000_000)];
    const exchange = await send([tern, ...receipts, huge]);
    const sent = await exchange.read(boatForm);
    const page = await (await exchange.respond('boat', { form: sent })).text();
    await exchange.end();
    expect([sent.status, receiptsIn(page).length, kept().length]).toEqual([413, 1, 1]);
  });

  test('of a list, files of both tries are together', async () => {
    const paper = (name: string, field = 'papers'): WrittenPart => [field, { name, type: 'text/plain', bytes: name }];
    const { receipts } = await refused([['name', 'T'], photo, paper('a.txt', 'papers[0]'), paper('b.txt', 'papers[]')]);
    const exchange = await send([tern, ...receipts, paper('c.txt')]);
    const sent = await exchange.read(boatForm);
    expect(sent.value?.papers?.map(({ name }) => name)).toEqual(['a.txt', 'b.txt', 'c.txt']);
    await exchange.end();
  });
});

describe('a file that a model has', () => {
  test('is shown with a box, and the box is told to the handler', async () => {
    const form = boatForm.from({ name: 'Tern' }, { files: { photo: { name: 'old.png', url: '/photos/7' } } });
    const page = await one.page((exchange) => exchange.respond('boat', { form }));
    expect(page).toContain('<a href="/photos/7">Current file: old.png</a>');
    expect(page).toMatch(/<input type="checkbox" name="loom-remove" value="photo">/);
    const exchange = await send([tern, ['loom-remove', 'photo']]);
    expect([...(await exchange.read(form)).removed]).toEqual(['photo']);
    const other = await send([tern, photo, ['loom-remove', 'photo']]);
    expect([...(await other.read(form)).removed]).toEqual([]);
    await other.end();
  });

  test('a field that the form does not have is an error', () => {
    expect(() => boatForm.blank({}, { files: { foto: { name: 'x' } } })).toThrow('foto');
  });
});

describe('saveTo', () => {
  test('keeps the file under a name of its own, or the given one, and never over another', async () => {
    const target = join(folder, '..', 'photos');
    const exchange = await send([tern, photo]);
    const file = (await exchange.read(boatForm)).value!.photo;
    const path = await file.saveTo(target);
    const named = await file.saveTo(target, { name: 'boat 7.png' });
    expect([path, named]).toEqual([
      expect.stringMatching(/photos\/[\w-]{16}\.png$/),
      expect.stringMatching(/photos\/boat 7\.png$/),
    ]);
    await expect(file.saveTo(target, { name: 'boat 7.png' })).rejects.toThrow('EEXIST');
    expect(await file.sha256()).toMatch(/^[0-9a-f]{64}$/);
    await exchange.end();
    expect([readFileSync(path), readFileSync(named)]).toEqual([Buffer.from(png), Buffer.from(png)]);
    expect(kept()).toEqual([]);
  });

  test.each(['', '.', '..', '../x', 'a/b', 'a\\b', 'a\0b', 'C:x', '/etc/x'])('refuses the name %j', async (name) => {
    const exchange = await send([tern, photo]);
    const file = (await exchange.read(boatForm)).value!.photo;
    await expect(file.saveTo(folder, { name })).rejects.toThrow('one path segment');
    await exchange.end();
  });
});

describe('a body that does not end', () => {
  const whole = () =>
    multipartBody([...own(), photo, tern, ['papers', { name: 'a.txt', type: 'text/plain', bytes: 'x' }]]);

  test('cut at every byte: a clear answer, what was typed, and nothing left', async () => {
    const body = whole();
    for (let length = 0; length < body.length - 4; length++) {
      const exchange = await exchangeOf(body.slice(0, length));
      const sent = await exchange.read(boatForm);
      await exchange.end();
      expect([length, sent.ok, [400, 403].includes(sent.status), kept()]).toEqual([length, false, true, []]);
    }
  });

  test('however it is cut into pieces, it is read the same', async () => {
    const body = whole();
    await fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: 1, max: body.length - 1 }), { maxLength: 20 }), async (cuts) => {
        const ends = [...new Set(cuts), body.length].sort((a, b) => a - b);
        const pieces = ends.map((end, index) => body.slice(ends[index - 1] ?? 0, end));
        const exchange = await exchangeOf(Readable.toWeb(Readable.from(pieces)) as ReadableStream<Uint8Array>);
        const sent = await exchange.read(boatForm);
        expect([sent.errors, sent.value?.photo.size]).toEqual([{}, png.length]);
        await exchange.end();
        expect(kept()).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  test('whatever is changed in it, the answer is one of the known, and nothing is left', async () => {
    const body = whole();
    const change = fc.record({ at: fc.nat(body.length - 1), byte: fc.nat(255), remove: fc.nat(3) });
    await fc.assert(
      fc.asyncProperty(fc.array(change, { minLength: 1, maxLength: 4 }), async (changes) => {
        let bytes = [...body];
        for (const { at, byte, remove } of changes) bytes.splice(at, remove, byte);
        bytes = bytes.slice(0, body.length);
        const exchange = await exchangeOf(new Uint8Array(bytes));
        const sent = await exchange.read(boatForm);
        expect([200, 400, 403, 413, 415, 422]).toContain(sent.status);
        await exchange.end();
        expect(kept()).toEqual([]);
      }),
      { numRuns: runs(200, 4000) },
    );
  });

  test('connections cut at random places leave nothing behind', async () => {
    const server = await openServer(
      nodeListener(async (request) => {
        const exchange = await one.loom.exchange(request);
        const sent = await exchange.read(boatForm);
        return exchange.respond('boat', { form: sent });
      }),
    );
    const body = multipartBody([
      ...own(),
      tern,
      ['photo', { name: 'x.png', type: 'image/png', bytes: big(png, 200_000) }],
    ]);
    const cookie = one.request('').headers.get('cookie');
    const head = `POST /boat HTTP/1.1\r\nHost: harbour.test\r\nSec-Fetch-Site: same-origin\r\nCookie: ${cookie}\r\nContent-Type: ${multipartType}\r\nContent-Length: ${body.length}\r\n\r\n`;
    const random = fc.sample(fc.integer({ min: 0, max: body.length - 1 }), { numRuns: runs(300, 3000), seed: 7 });
    const cutAt = (length: number) =>
      new Promise<void>((done) => {
        const socket = connect(Number(new URL(server.url).port), '127.0.0.1', () => {
          socket.write(head);
          socket.write(body.subarray(0, length), () => socket.destroy());
        });
        socket.on('error', () => {}).on('close', () => done());
      });
    for (let at = 0; at < random.length; at += 20) await Promise.all(random.slice(at, at + 20).map(cutAt));
    for (const end = Date.now() + 20_000; kept().length > 0 && Date.now() < end; ) await pause(20);
    expect(kept()).toEqual([]);
    await server.close();
  });

  test('a sender who says nothing for too long is answered', async () => {
    const slow = defineForm('boat', z.object({ name: z.string() }), { limits: { pause: 50 } });
    const stream = new ReadableStream<Uint8Array>({
      start: (controller) => controller.enqueue(multipartBody([...own(), tern]).slice(0, -20)),
    });
    const exchange = await exchangeOf(stream);
    const sent = await exchange.read(slow);
    expect([sent.status, sent.errors['']]).toEqual([408, ['The form took too long to arrive. Please send it again.']]);
    await exchange.end();
  });
});

/** A file that begins so, and is as long. */
function big(start: Uint8Array, length: number): Uint8Array {
  const bytes = new Uint8Array(length);
  bytes.set(start);
  return bytes;
}

describe('a store that does not work', () => {
  const full = Object.assign(new Error('no space left on device'), { code: 'ENOSPC' });
  const broken = (fails: Partial<UploadStore>): UploadStore => ({
    put: () => Promise.reject(full),
    get: () => Promise.resolve(undefined),
    remove: () => Promise.resolve(),
    sweep: () => Promise.resolve(0),
    ...fails,
  });

  test.each([
    ['at once', broken({})],
    [
      'in the middle',
      broken({
        async put(content) {
          for await (const _ of content) throw full;
          return '';
        },
      }),
    ],
    ['at the end', broken({ put: () => Promise.resolve('x') })],
    ['and cannot sweep', broken({ sweep: () => Promise.reject(full) })],
  ])('%s: what was typed is kept, the field says so, the log too', async (_name, uploads) => {
    const other = await openVisitor({ uploads });
    const exchange = await send([tern, photo, ['name', 'Tern 2']], other);
    const sent = await exchange.read(boatForm);
    expect([sent.status, sent.errors, sent.text('name')]).toEqual([
      422,
      { photo: ['The file could not be kept here. Please try again later.'] },
      'Tern 2',
    ]);
    expect(other.logged).toContain('error');
    await exchange.end();
  });

  test('is not asked for a file whose sender is not known', async () => {
    let asked = 0;
    const other = await openVisitor({
      uploads: broken({
        put() {
          asked++;
          return Promise.reject(full);
        },
      }),
    });
    for (const parts of [
      [tern, photo],
      [photo, ...own(other), tern],
    ]) {
      const exchange = await exchangeOf(multipartBody(parts), other);
      const sent = await exchange.read(boatForm);
      expect([sent.status, sent.text('name'), asked]).toEqual([403, 'Tern', 0]);
      await exchange.end();
    }
  });

  test('a folder that others can look into is refused, and a link too', async () => {
    const open = mkdtempSync(join(tmpdir(), 'zip-loom-test-'));
    folders.push(open);
    const link = `${open}-link`;
    folders.push(link);
    const mine = mkdtempSync(join(tmpdir(), 'zip-loom-test-'));
    folders.push(mine);
    symlinkSync(mine, link);
    chmodSync(open, 0o755);
    for (const uploads of [open, link]) {
      const other = await openVisitor({ uploads });
      const sent = await (await send([tern, photo], other)).read(boatForm);
      expect(sent.errors).toEqual({ photo: ['The file could not be kept here. Please try again later.'] });
    }
  });
});

test('one visitor has room for so much, and has it again when it is let go', async () => {
  const other = await openVisitor({ uploads: folder, uploadQuota: 1.5 * png.length });
  const paper: WrittenPart = ['papers', { name: 'a.png', type: 'image/png', bytes: png }];
  const first = await send([tern, photo, paper], other);
  const sent = await first.read(boatForm);
  expect(sent.errors).toEqual({
    'papers[0]': ['You have sent a lot of files in a short time. Please try again later.'],
  });
  await first.end();
  const second = await send([tern, photo], other);
  expect((await second.read(boatForm)).ok).toBe(true);
  await second.end();
});

test('all visitors together have room for so much: another session brings no new room', async () => {
  const first = await openVisitor({ uploads: folder, uploadTotal: 1.5 * png.length });
  const exchange = await send([tern, photo], first);
  expect((await exchange.read(boatForm)).ok).toBe(true);
  first.cookies.clear();
  await first.page((shown) => shown.respond('boat', { form: boatForm.blank() }));
  const other = await send([tern, photo], first);
  expect((await other.read(boatForm)).errors).toEqual({
    photo: ['You have sent a lot of files in a short time. Please try again later.'],
  });
  await other.end();
  await exchange.end();
  const again = await send([tern, photo], first);
  expect((await again.read(boatForm)).ok).toBe(true);
  await again.end();
});

test('the folder is this user’s alone, and what a crash has left is swept', async () => {
  const first = await send([tern, photo]);
  await first.read(boatForm);
  expect((statSync(folder).mode & 0o777).toString(8)).toBe('700');
  expect((statSync(join(folder, kept()[0]!)).mode & 0o777).toString(8)).toBe('600');
  await first.end();
  const left = join(folder, 'a'.repeat(32));
  writeFileSync(left, 'x');
  utimesSync(left, 1, 1);
  const other = await openVisitor({ uploads: folder });
  const exchange = await send([tern, photo], other);
  await exchange.read(boatForm);
  await exchange.end();
  for (const end = Date.now() + 20_000; kept().length > 0 && Date.now() < end; ) await pause(10);
  expect(kept()).toEqual([]);
});

test('where no server tells that an answer was sent, files go when it has been made', async () => {
  const exchange = await send([tern, photo]);
  const sent = await exchange.read(boatForm);
  expect([sent.ok, kept().length]).toEqual([true, 1]);
  await (await exchange.respond('boat', { form: boatForm.blank() })).text();
  for (const end = Date.now() + 20_000; kept().length > 0 && Date.now() < end; ) await pause(10);
  expect(kept()).toEqual([]);
});

test('one of several forms is read with its files', async () => {
  const otherForm = defineForm('other', z.object({ title: z.string() }));
  const exchange = await send([tern, photo]);
  const sent = await exchange.readOneOf([otherForm, boatForm]);
  expect([sent.name, sent.ok, sent.name === 'boat' && sent.value?.photo.type]).toEqual(['boat', true, 'image/png']);
  await exchange.end();
});

test('a receipt tells nothing of the session', async () => {
  const { receipts } = await refused([['name', 'T'], photo]);
  const session = [...one.cookies.values()].join();
  const [, sealed] = receipts[0]!;
  const text = Buffer.from(String(sealed).split('.')[0]!, 'base64url').toString();
  expect([session.length > 10, text.includes('tern.png'), text.includes(session)]).toEqual([true, true, false]);
});

describe('fields', () => {
  test('gives texts and files by name, and no others', async () => {
    const exchange = await send([tern, photo, ['other', 'x']]);
    const sent = await exchange.fields({ only: ['name', 'photo'] });
    expect([sent.ok, sent.fields, Object.keys(sent.files), sent.files.photo?.type]).toEqual([
      true,
      { name: 'Tern' },
      ['photo'],
      'image/png',
    ]);
    await exchange.end();
    expect(kept()).toEqual([]);
  });

  test('tells what is wrong, and keeps what was typed', async () => {
    const exchange = await send([tern, photo]);
    const sent = await exchange.fields({ only: ['name', 'photo'], accept: { photo: ['application/pdf'] } });
    expect([sent.ok, sent.status, sent.fields.name, sent.errors]).toEqual([
      false,
      422,
      'Tern',
      { photo: ['This kind of file is not taken here.'] },
    ]);
    expect(await sent.response.text()).toBe('photo: This kind of file is not taken here.\n');
    await exchange.end();
    const bare = await exchangeOf(multipartBody([tern]));
    const without = await bare.fields({ only: ['name'] });
    expect([without.ok, without.status, without.response.status, without.fields.name]).toEqual([
      false,
      403,
      403,
      'Tern',
    ]);
  });

  test('verify reads no more than the token, for whoever reads the rest', async () => {
    const exchange = await send([tern, photo]);
    expect((await exchange.verify()).ok).toBe(true);
    expect(kept()).toEqual([]);
    const sent = await exchange.read(boatForm);
    expect([sent.ok, kept().length]).toEqual([true, 1]);
    await exchange.end();
  });

  test.each(['by files', 'without files'])(
    'verify leaves the body to code that reads it by other means: %s',
    async (how) => {
      const seen: unknown[] = [];
      const server = await openServer(
        nodeListener(async (request) => {
          const exchange = await one.loom.exchange(request);
          const checked = await exchange.verify();
          seen.push(checked.ok, (await request.formData()).get('name'));
          return exchange.redirect('/');
        }),
      );
      const hidden = own() as Array<[string, string]>;
      const body =
        how === 'by files'
          ? multipartBody([...hidden, tern, photo])
          : String(new URLSearchParams([...hidden, ['name', 'Tern']]));
      const type = how === 'by files' ? multipartType : 'application/x-www-form-urlencoded';
      const cookie = one.request('').headers.get('cookie')!;
      const init = {
        method: 'POST',
        body,
        redirect: 'manual',
        headers: { 'content-type': type, cookie, 'sec-fetch-site': 'same-origin' },
      };
      const { status } = await fetch(`${server.url}/`, init as RequestInit);
      await server.close();
      const exchange = await one.loom.exchange(one.request([['name', 'Tern']]));
      seen.push((await exchange.verify()).ok, (await exchange.request.formData()).get('name'));
      expect([status, seen]).toEqual([303, [true, 'Tern', true, 'Tern']]);
    },
  );

  test('names that are none are told at once', async () => {
    const exchange = await send([tern]);
    expect(() => exchange.fields({} as never)).toThrow('only');
    await exchange.end();
  });
});
