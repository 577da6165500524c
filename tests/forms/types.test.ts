/** What TypeScript says about forms: right uses pass, wrong ones are errors. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { afterAll, expect, test } from '@jest/globals';

const folder = '.cache/types-of-forms';
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const head = `
import { defineForm } from 'zip-loom/forms';
import { createLoom, type Exchange } from 'zip-loom';
import { z } from 'zod';
const boatForm = defineForm('boat', z.object({ name: z.string(), length: z.number(), when: z.string().transform((text) => new Date(text)) }));
const otherForm = defineForm('other', z.object({ note: z.string() }));
declare const exchange: Exchange;
`;

test('right uses pass and each wrong one is an error', () => {
  const lines: Array<[code: string, isRight: boolean]> = [
    ["boatForm.from({ name: 'Tern', length: 3 });", true],
    ['boatForm.from(undefined); boatForm.from(null);', true],
    [
      "const sent = await exchange.read(boatForm); if (sent.ok) { const refused = sent.refuse('name', 'Taken.'); const no: false = refused.ok; const a: string = sent.value.name; void [no, a]; }",
      true,
    ],
    ["const sent = await exchange.read(boatForm); sent.refuse('name', 'Taken.').value.name;", false],
    ["defineForm('a', z.object({ b: z.string() }), { labels: { b: 'B' }, limits: { body: 5 } });", true],
    ["defineForm('a', z.object({ b: z.string() }), { label: { b: 'B' } });", false],
    ["defineForm('a', z.object({ b: z.string() }), { kinds: { b: 'datum' } });", false],
    ["defineForm('a', z.object({ b: z.string() }), { limits: { bodies: 5 } });", false],
    [
      "createLoom({ templates: new URL('file:///t'), locales: ['en-GB', 'de'], errorPage: 'error', base: '/app', logger: false });",
      true,
    ],
    ['createLoom({ sources: {}, layout: {} });', false],
    ["createLoom({ sources: {}, mode: 'dev' });", false],
    ["createLoom({ sources: {}, layouts: 'site-layout' });", false],
    ['createLoom({ sources: {}, secret: 12345 });', false],
    ["createLoom({ sources: {}, elements: 'x' });", false],
    ["createLoom({ sources: {}, assets: { folders: 'x' } });", false],
    ["exchange.redirect('/', { flash: { text: 'Saved', role: 'status' } });", true],
    ["exchange.redirect('/', { flush: 'Saved' });", false],
    ["exchange.flash({ message: 'Saved' });", false],
    ["exchange.respond('a', {}, { statuss: 404 });", false],
    ['boatForm.from({ id: 7, name: null, skipper: {} } as { id: number; name: null; skipper: object });', true],
    ["boatForm.blank({ name: 'Tern' });", true],
    ["boatForm.from({ length: 'long' });", false],
    ["boatForm.from({ nmae: 'Tern' });", false],
    ["boatForm.from('Tern');", false],
    [
      'const sent = await exchange.read(boatForm.from({})); if (sent.ok) { const a: string = sent.value.name; const b: Date = sent.value.when; void [a, b]; }',
      true,
    ],
    ['const sent = await exchange.read(boatForm); if (sent.ok) sent.value.nmae;', false],
    ['const sent = await exchange.read(boatForm); sent.value.name;', false],
    [
      "const sent = await exchange.readOneOf([boatForm, otherForm]); if (sent.name === 'other' && sent.ok) { const a: string = sent.value.note; void a; }",
      true,
    ],
    [
      "const sent = await exchange.readOneOf([boatForm, otherForm]); if (sent.name === 'boat' && sent.ok) sent.value.note;",
      false,
    ],
    ["const sent = await exchange.readOneOf([boatForm, otherForm]); if (sent.name === 'third') throw 1;", false],
  ];
  mkdirSync(folder, { recursive: true });
  for (const [index, [code]] of lines.entries())
    writeFileSync(`${folder}/case${index}.ts`, `${head}export async function run() { ${code} }\n`);
  writeFileSync(
    `${folder}/tsconfig.json`,
    JSON.stringify({ extends: '../../tsconfig.json', compilerOptions: { noUnusedLocals: false }, include: ['*.ts'] }),
  );
  const { stdout } = spawnSync('npx', ['tsc', '-p', folder, '--pretty', 'false'], { encoding: 'utf8' });
  const wrong = new Set([...stdout.matchAll(/case(\d+)\.ts\(/g)].map((found) => Number(found[1])));
  expect(lines.map(([code], index) => [code, !wrong.has(index)])).toEqual(lines);
});
