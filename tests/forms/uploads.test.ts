/** Files that are sent with forms: what is taken, what is told, and that nothing stays that nobody has taken. */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Exchange } from 'zip-loom';
import { defineForm, type UploadedFile } from 'zip-loom/forms';
import { z } from 'zod';
import { type Visitor, visitor } from '../support/exchanges.ts';
import {
  boundary,
  bytesOf,
  joined,
  jpeg,
  multipartBody,
  multipartType,
  partBytes,
  png,
  type WrittenPart,
} from '../support/multipart.ts';

const boatForm = defineForm(
  'boat',
  z.object({
    name: z.string().min(2).max(40),
    photo: z.file().max(50_000).mime(['image/png', 'image/jpeg']).optional(),
    papers: z.array(z.file()).max(3).optional(),
  }),
  { limits: { file: 100_000, allFiles: 300_000, files: 5, fields: 30, body: 20_000 } },
);
const sources = {
  'pages/boat.html':
    '<meta (takes form)><form (bind form) action="/boat" method="post"><input name="name"><input name="photo"><p (errors photo)></p><input name="papers"><button>Save</button></form>',
};

let folder: string;
let one: Visitor;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-test-'));
  one = await visitor(sources, { uploads: join(folder, 'uploads') } as object);
  await one.page((exchange) => exchange.respond('boat', { form: boatForm.blank() }));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const kept = () => {
  try {
    return readdirSync(join(folder, 'uploads'));
  } catch {
    return [];
  }
};

/** Sends bytes as a browser would that has the page. */
async function sendBytes(
  body: BodyInit | null,
  type = multipartType,
  headers: Record<string, string> = {},
): Promise<Exchange> {
  const request = one.request('', { headers: { 'content-type': type, ...headers } });
  const init = { method: 'POST', headers: request.headers, body, duplex: 'half' } as RequestInit;
  return one.loom.exchange(new Request(request.url, init));
}

const own = (): WrittenPart[] => Object.entries(one.hidden);
const send = (parts: readonly WrittenPart[]) => sendBytes(multipartBody([...own(), ...parts]) as BodyInit);
const tern: WrittenPart = ['name', 'Tern'];

test('a file comes with its form: type by its bytes, name as a label, content as it was', async () => {
  const exchange = await send([tern, ['photo', { name: '../../Täg "1".PNG', type: 'text/html', bytes: png }]]);
  const sent = await exchange.read(boatForm);
  expect([sent.ok, sent.errors]).toEqual([true, {}]);
  const photo = sent.value?.photo as UploadedFile;
  expect([photo.type, photo.size, photo.safeName, photo.name]).toEqual([
    'image/png',
    png.length,
    'Täg _1_.PNG',
    'Täg _1_.PNG',
  ]);
  expect([await photo.arrayBuffer(), kept()]).toEqual([png.buffer, [expect.stringMatching(/^[\w-]{32}$/)]]);
  await exchange.end();
  expect(kept()).toEqual([]);
});

test('the page says how it is sent, and its token comes before the files', async () => {
  const page = await one.page((exchange) => exchange.respond('boat', { form: boatForm.blank() }));
  expect(page).toMatch(
    /^<form action="\/boat" method="post" enctype="multipart\/form-data"><input type="hidden" name="loom-token"/,
  );
  expect(page).toContain('<input name="photo" type="file" id="boat-photo" accept="image/png,image/jpeg">');
  expect(page).toContain('<input name="papers" type="file" id="boat-papers" multiple>');
  expect(page.match(/loom-token/g)).toHaveLength(1);
});

const big = (length: number) => new Uint8Array(length).fill(7);
const photo = (bytes: Uint8Array | string = png, name = 'tern.png', type = 'image/png'): WrittenPart => [
  'photo',
  { name, type, bytes },
];
const paper = (bytes: Uint8Array | string = 'x', name = 'a.txt', type = 'text/plain'): WrittenPart => [
  'papers',
  { name, type, bytes },
];
/** A part as it is written, byte for byte. */
const raw = (head: string, content: Uint8Array | string = '') =>
  joined([`--${boundary}\r\n${head}\r\n\r\n`, content, '\r\n']);
const end = `--${boundary}--\r\n`;
const before = () => joined(own().map(partBytes));
const whole = (...pieces: Array<Uint8Array | string>) => joined([before(), partBytes(tern), ...pieces, end]);

/** What is sent, and what it comes to: `200`, or a status with the fields in error. */
const bodies: Array<[name: string, body: () => Uint8Array, expected: string, type?: string]> = [
  // As browsers send them.
  ['no file', () => whole(), '200'],
  [
    'an empty file field',
    () =>
      whole(raw('Content-Disposition: form-data; name="photo"; filename=""\r\nContent-Type: application/octet-stream')),
    '200',
  ],
  ['a picture', () => whole(partBytes(photo())), '200 photo=image/png'],
  ['another kind of picture', () => whole(partBytes(photo(jpeg, 'a.jpg', 'image/jpeg'))), '200 photo=image/jpeg'],
  [
    'several files in one field',
    () => whole(partBytes(paper()), partBytes(paper('y'))),
    '200 papers=text/plain,text/plain',
  ],
  [
    'files with brackets',
    () => whole(partBytes(['papers[]', { name: 'a.txt', type: 'text/plain', bytes: 'x' }])),
    '200 papers=text/plain',
  ],
  [
    'files with numbers',
    () => whole(partBytes(['papers[4]', { name: 'a.txt', type: 'text/plain', bytes: 'x' }])),
    '200 papers=text/plain',
  ],
  ['a file of no bytes', () => whole(partBytes(paper(''))), '200 papers=text/plain'],
  [
    'a file without a type',
    () => whole(raw('Content-Disposition: form-data; name="papers"; filename="a"', 'x')),
    '200 papers=text/plain',
  ],
  ['a text after the file', () => joined([before(), partBytes(photo()), partBytes(tern), end]), '200 photo=image/png'],
  [
    'a file whose content looks like a boundary',
    () => whole(partBytes(paper(`--${boundary.slice(0, -1)}\r\n`))),
    '200 papers=text/plain',
  ],
  ['line breaks of all kinds in a file', () => whole(partBytes(paper('\r\n\r\n--\r\n\n'))), '200 papers=text/plain'],
  ['UTF-8 in a text', () => joined([before(), partBytes(['name', 'Küstenseeschwalbe']), end]), '200'],
  [
    'a preamble and an epilogue (RFC 2046 §5.1.1)',
    () => joined(['preamble\r\n', before(), partBytes(tern), end, 'epilogue']),
    '200',
  ],
  [
    'spaces after a boundary',
    () => joined([before(), `--${boundary}  \r\nContent-Disposition: form-data; name="name"\r\n\r\nTern\r\n`, end]),
    '422 name',
  ],
  [
    'a boundary in quotes',
    () => whole(partBytes(photo())),
    '200 photo=image/png',
    `multipart/form-data; boundary="${boundary}"`,
  ],
  ['upper case', () => whole(partBytes(photo())), '200 photo=image/png', `Multipart/Form-Data; Boundary=${boundary}`],
  [
    'headers in lower case',
    () => whole(raw('content-disposition: form-data; name="photo"; filename="a.png"', png)),
    '200 photo=image/png',
  ],
  [
    'more headers',
    () =>
      whole(
        raw(
          'Content-Disposition: form-data; name="photo"; filename="a.png"\r\nX-More: 1\r\nContent-Length: 999999',
          png,
        ),
      ),
    '200 photo=image/png',
  ],
  [
    'a header over two lines',
    () => whole(raw('Content-Disposition: form-data;\r\n name="photo"; filename="a.png"', png)),
    '200 photo=image/png',
  ],
  [
    'a name without quotes',
    () => whole(raw('Content-Disposition: form-data; name=photo; filename=a.png', png)),
    '200 photo=image/png',
  ],
  [
    'an encoded file name',
    () =>
      whole(raw('Content-Disposition: form-data; name="photo"; filename="a"; filename*=utf-8\'\'T%C3%A4g.png', png)),
    '200 photo=image/png',
  ],
  // Names of files are labels.
  ...[
    '../../etc/passwd',
    '..\\..\\boot.ini',
    '/etc/passwd',
    'C:\\a.png',
    'a/b/c.png',
    '..',
    '.',
    ' ',

    'a\u202egnp.exe',
    'nul',
    'con.png',
    `${'x'.repeat(500)}.png`,
    'a%22b.png',
    'a;b=c.png',
    '\ud800.png',
    '<b>.png',
    '-rf',
    '~',
    '.htaccess',
  ].map((label): (typeof bodies)[number] => [
    `the file name ${JSON.stringify(label).slice(0, 30)}`,
    () => whole(partBytes(photo(png, label))),
    '200 photo=image/png',
  ]),
  ['a zero byte in the name of a file', () => whole(partBytes(photo(png, 'a\u0000.png'))), '400'],
  // Types are those of the bytes.
  ['a script that says it is a picture', () => whole(partBytes(photo('<script>alert(1)</script>'))), '422 photo'],
  ['a page that says it is a picture', () => whole(partBytes(photo('<!doctype html><p>x', 'x.png'))), '422 photo'],
  [
    'a drawing where pictures are taken',
    () => whole(partBytes(photo('<svg xmlns="http://www.w3.org/2000/svg"/>', 'x.svg', 'image/svg+xml'))),
    '422 photo',
  ],
  [
    'a drawing that says it is a picture',
    () => whole(partBytes(photo('<svg xmlns="http://www.w3.org/2000/svg"/>'))),
    '422 photo',
  ],
  [
    'an archive that says it is a picture',
    () => whole(partBytes(photo(joined(['PK\u0003\u0004', big(100)])))),
    '422 photo',
  ],
  ['a program', () => whole(partBytes(photo(joined(['MZ', big(200)])))), '422 photo'],
  ['nothing that says it is a picture', () => whole(partBytes(photo(''))), '422 photo'],
  [
    'a picture that is a script as well',
    () => whole(partBytes(photo(joined(['GIF89a/*', big(50), '*/=1;alert(1)'])))),
    '422 photo',
  ],
  [
    'a picture that says it is a page',
    () => whole(partBytes(photo(png, 'x.html', 'text/html'))),
    '200 photo=image/png',
  ],
  [
    'bytes that say they are text',
    () => whole(partBytes(paper(new Uint8Array([0x61, 0xff, 0xfe])))),
    '200 papers=application/octet-stream',
  ],
  [
    'zero bytes that say they are text',
    () => whole(partBytes(paper('a\u0000b'))),
    '200 papers=application/octet-stream',
  ],
  [
    'half a character at the end of a text',
    () => whole(partBytes(paper(bytesOf('ä').subarray(0, 1)))),
    '200 papers=application/octet-stream',
  ],
  [
    'bytes late in a long text',
    () => whole(partBytes(paper(joined(['x'.repeat(90_000), new Uint8Array([0xff])])))),
    '200 papers=application/octet-stream',
  ],
  ['a table', () => whole(partBytes(paper('a,b\r\n1,2', 'a.csv', 'text/csv'))), '200 papers=text/csv'],
  [
    'a drawing where all is taken',
    () =>
      whole(
        partBytes(
          paper(
            '<?xml version="1.0"?>\n<!-- x -->\n<svg xmlns="http://www.w3.org/2000/svg"/>',
            'x.svg',
            'image/svg+xml',
          ),
        ),
      ),
    '200 papers=image/svg+xml',
  ],
  [
    'a page that says it is a drawing',
    () => whole(partBytes(paper('<html><svg></svg>', 'x.svg', 'image/svg+xml'))),
    '200 papers=application/octet-stream',
  ],
  // Limits.
  [
    'a file of the most bytes',
    () => whole(partBytes(photo(joined([png, big(50_000 - png.length)])))),
    '200 photo=image/png',
  ],
  ['a file of one byte more', () => whole(partBytes(photo(joined([png, big(50_001 - png.length)])))), '422 photo'],
  [
    'a file of the most bytes of any',
    () => whole(partBytes(paper(big(100_000)))),
    '200 papers=application/octet-stream',
  ],
  ['a file of one byte more than any', () => whole(partBytes(paper(big(100_001)))), '422 papers[0]'],
  ['files of too many bytes together', () => whole(...[1, 2, 3, 4].map(() => partBytes(paper(big(99_000))))), '413'],
  [
    'a file for no field, of too many bytes',
    () => whole(partBytes(['other', { name: 'a', bytes: big(400_000) }])),
    '413',
  ],
  ['more files than the list takes', () => whole(...[1, 2, 3, 4].map(() => partBytes(paper()))), '422 papers'],
  ['too many files', () => whole(...[1, 2, 3, 4, 5, 6].map(() => partBytes(paper()))), '413'],
  [
    'ten thousand parts',
    () => whole(...Array.from({ length: 10_000 }, (_, index) => partBytes([`a${index}`, 'x']))),
    '413',
  ],
  [
    'ten thousand parts without a name',
    () => whole(...Array.from({ length: 10_000 }, () => raw('Content-Disposition: form-data', 'x'))),
    '413',
  ],
  ['too many texts', () => whole(...Array.from({ length: 40 }, (_, index) => partBytes([`a${index}`, 'x']))), '413'],
  ['a text that is too long', () => whole(partBytes(['other', 'x'.repeat(30_000)])), '413'],
  [
    'texts that are too long together',
    () => whole(...[1, 2, 3].map(() => partBytes(['other', 'x'.repeat(9000)]))),
    '413',
  ],
  ['a name that is too long', () => whole(partBytes(['x'.repeat(300), 'x'])), '413'],
  ['a name of a file that is too long', () => whole(partBytes(['x'.repeat(300), { name: 'a', bytes: 'x' }])), '413'],
  ['a name that goes too deep', () => whole(partBytes(['a.b.c.d.e.f.g.h.i.j', { name: 'a', bytes: 'x' }])), '200'],
  ['an endless preamble', () => joined(['x'.repeat(400_000), before(), partBytes(tern), end]), '413'],
  [
    'a bomb of headers',
    () =>
      whole(
        raw(`Content-Disposition: form-data; name="photo"; filename="a"\r\n${'X-A: 1\r\n'.repeat(5000)}X-B: 1`, png),
      ),
    '400',
  ],
  [
    'a header that never ends',
    () => whole(raw(`Content-Disposition: form-data; name="photo"; filename="${'a'.repeat(50_000)}"`, png)),
    '400',
  ],
  // Names that are none of the form’s.
  ['a file for no field', () => whole(partBytes(['other', { name: 'a', bytes: png }])), '200'],
  [
    'a file for a text field',
    () => joined([before(), partBytes(['name', { name: 'a', bytes: 'Tern' }]), end]),
    '422 name',
  ],
  ['a text for a file field', () => whole(partBytes(['photo', 'x'])), '422 photo'],
  ['an empty text for a file field', () => whole(partBytes(['photo', ''])), '200'],
  [
    'a file for the prototype',
    () =>
      whole(
        partBytes(['__proto__', { name: 'a', bytes: 'x' }]),
        partBytes(['constructor.prototype.x', { name: 'a', bytes: 'x' }]),
      ),
    '200',
  ],
  ['a file for the token', () => whole(partBytes(['loom-token', { name: 'a', bytes: 'x' }])), '200'],
  [
    'a part without a name',
    () => whole(raw('Content-Disposition: form-data', 'x'), raw('Content-Disposition: form-data; filename="x"', 'x')),
    '200',
  ],
  [
    'a part that is no form’s',
    () => whole(raw('Content-Disposition: attachment; name="photo"; filename="a.png"', png)),
    '200',
  ],
  ['a part without headers', () => whole(raw('X: 1', 'x')), '200'],
  ['two files for one', () => whole(partBytes(photo()), partBytes(photo(jpeg))), '200 photo=image/jpeg'],
  [
    'parts within a part',
    () =>
      whole(
        raw(
          'Content-Disposition: form-data; name="papers"\r\nContent-Type: multipart/mixed; boundary=inner',
          '--inner\r\nContent-Disposition: file; filename="a.txt"\r\n\r\nx\r\n--inner--',
        ),
      ),
    '422 papers[0]',
  ],
  // What is no body of parts.
  ['nothing at all', () => new Uint8Array(), '400'],
  ['no boundary in the type', () => whole(), '400', 'multipart/form-data'],
  ['an empty boundary', () => whole(), '400', 'multipart/form-data; boundary='],
  ['another boundary', () => whole(), '400', 'multipart/form-data; boundary=other'],
  [
    'two boundaries',
    () => whole(partBytes(photo())),
    '400',
    `multipart/form-data; boundary=other; boundary=${boundary}`,
  ],
  ['other parts', () => whole(), '415', `multipart/mixed; boundary=${boundary}`],
  ['text alone', () => bytesOf('name=Tern'), '400'],
  ['the end alone', () => bytesOf(end), '403'],
  ['no end', () => joined([before(), partBytes(tern), partBytes(photo())]), '400'],
  ['an end without its line', () => joined([before(), partBytes(tern), end.trimEnd()]), '200'],
  ['line ends of another system', () => bytesOf(Buffer.from(whole()).toString().replace(/\r\n/g, '\n')), '400'],
  ['the end in the middle', () => joined([before(), partBytes(tern), end, partBytes(photo())]), '200'],
  // Who sends it.
  ['no token', () => joined([partBytes(tern), partBytes(photo()), end]), '403'],
  ['a token after the file', () => joined([partBytes(tern), partBytes(photo()), before(), end]), '403'],
  [
    'a token that is not ours',
    () => joined([partBytes(['loom-token', 'x']), before(), partBytes(tern), partBytes(photo()), end]),
    '403',
  ],
  [
    'no list of names',
    () =>
      joined([
        ...own()
          .filter(([name]) => name === 'loom-token')
          .map(partBytes),
        partBytes(tern),
        partBytes(photo()),
        end,
      ]),
    '403',
  ],
];

test('there are at least eighty bodies', () => {
  expect(bodies.length).toBeGreaterThan(80);
});

async function outcome(exchange: Exchange): Promise<string> {
  const sent = await exchange.read(boatForm);
  const files = Object.entries({ photo: [sent.value?.photo ?? []].flat(), papers: sent.value?.papers ?? [] });
  const types = files.flatMap(([name, list]) =>
    list.length > 0 ? `${name}=${list.map(({ type }) => type).join()}` : [],
  );
  const fields = Object.keys(sent.errors).filter((name) => name !== '');
  await exchange.end();
  return [sent.status, ...types, ...fields].join(' ');
}

describe('a body', () => {
  test.each(bodies.map(([name, ...rest]) => ({ name, rest })))('$name', async ({ rest: [body, expected, type] }) => {
    expect(await outcome(await sendBytes(body() as BodyInit, type))).toBe(expected);
    expect(kept()).toEqual([]);
  });
});
