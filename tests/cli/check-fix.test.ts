/** `zip-loom check --fix`: what is sure is written, and nothing else is touched. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { makeProject, type Project } from '../support/projects.ts';

/** What stands in a page, and what stands there afterwards; the same where nothing is sure. */
const cases: Array<[before: string, after: string]> = [
  // Names.
  ['<p>${berht.name}</p>', '<p>${berth.name}</p>'],
  ['<p>${berth.nam} ${berth.nmae}</p>', '<p>${berth.name} ${berth.name}</p>'],
  ['<p>${berth.namen ?? berht.name}</p>', '<p>${berth.name ?? berth.name}</p>'],
  ['<p>${helpers.dat(berth.since)}</p>', '<p>${helpers.date(berth.since)}</p>'],
  ['<p (if berth)>a</p><p (esle)>b</p>', '<p (if berth)>a</p><p (else)>b</p>'],
  ['<berth-crad berth=${berth}>a</berth-crad>', '<berth-card berth=${berth}>a</berth-card>'],
  ['<berth-crad berth=${berth}/>', '<berth-card berth=${berth}/>'],
  ['<berth-card brth=${berth} isCompact>a</berth-card>', '<berth-card berth=${berth} is-compact>a</berth-card>'],
  [
    '<berth-card berth=${berth}><i slot="nots">a</i></berth-card>',
    '<berth-card berth=${berth}><i slot="notes">a</i></berth-card>',
  ],
  ['<label for="nmae">a</label><input id="name">', '<label for="name">a</label><input id="name">'],
  ['<a href="/berhts?page=2">a</a>', '<a href="/berths?page=2">a</a>'],
  [
    '<form (bind boatForm) method="post"><input name="nmae"></form>',
    '<form (bind boatForm) method="post"><input name="name"></form>',
  ],
  // One after another: the second is seen when the first is put right.
  ['<berth-crad brth=${berht}>a</berth-crad>', '<berth-card berth=${berth}>a</berth-card>'],
  // Not sure: further away, several near, too short, a route with a part that may be anything, several places.
  ['<p>${brht}</p>', '<p>${brht}</p>'],
  ['<p (let ab1 = 1, ab2 = 2)>${ab3} ${ab1} ${ab2}</p>', '<p (let ab1 = 1, ab2 = 2)>${ab3} ${ab1} ${ab2}</p>'],
  ['<p (let id = 1)>${di} ${id}</p>', '<p (let id = 1)>${di} ${id}</p>'],
  ['<a href="/boats/one">a</a>', '<a href="/boats/one">a</a>'],
  ['<p aria-describedby="nmae nmae" id="name">a</p>', '<p aria-describedby="nmae nmae" id="name">a</p>'],
  // Decoration.
  ['<img src="/a.png" role="presentation">', '<img alt="" src="/a.png" role="presentation">'],
  ['<img src="/a.png">', '<img src="/a.png">'],
  // Calls that cannot have content.
  ['<p><berth-row berth=${berth}></p>', '<p><berth-row berth=${berth} /></p>'],
  ['<berth-row berth=a>\n<p>b</p>', '<berth-row berth=a />\n<p>b</p>'],
  ['<berth-row berth=${berth} >', '<berth-row berth=${berth} />'],
];

/** Whether what points at an id finds one is not known as long as a template cannot be read. */
const broken: typeof cases = [
  ['<p><berth-card berth=${berth}></p>', '<p><berth-card berth=${berth}></p>'],
  ['<p (for x fo [1])>${x}</p>', '<p (for x fo [1])>${x}</p>'],
  ['<p (fi berth)>a</p>', '<p (fi berth)>a</p>'],
];

const head = '\ufeff<meta (import { Berth, BoatForm } from "../../model.ts") (takes berth: Berth, boatForm: BoatForm)>';

function makePages(pages: typeof cases): Project {
  return makeProject({
    'zip-loom.config.ts':
      "import { defineConfiguration } from 'zip-loom/node';\nexport default defineConfiguration({ paths: ['/berths', '/boats/:id'] });\n",
    'tsconfig.json':
      '{ "compilerOptions": { "strict": true, "module": "nodenext", "allowImportingTsExtensions": true, "noEmit": true } }',
    'model.ts':
      'export interface Berth { name: string; since: Date }\nexport interface BoatForm { readonly model: { name: string; size: number } }\n',
    'templates/partials/berth-card.html':
      '<meta (takes berth, isCompact = false)><b class=${isCompact && "compact"}>${berth.name}<slot></slot><slot name="notes"></slot></b>',
    'templates/partials/berth-row.html': '<meta (takes berth)><b>${berth.name}</b>',
    ...Object.fromEntries(pages.map(([before], at) => [`templates/pages/page-${at}.html`, `${head}\r\n${before}\r\n`])),
  });
}

describe.each([
  [
    'templates that can be read',
    cases,
    [
      /^templates\/pages\/page-0\.html:2:6 {2}“berht” → “berth”$/m,
      /^Fixed \d+ problems in \d+ files\.$/m,
      /There is no “brht” here\./,
      /^(?!.*There is no “berht” here\.)/s,
    ],
  ],
  ['templates that cannot', broken, [/^Nothing to fix that is sure\.\n/]],
])('in %s', (_name, pages, told) => {
  let project: Project;
  let output: string;
  beforeAll(() => {
    project = makePages(pages);
    output = project.loom('check', '--fix').stdout;
  });
  afterAll(() => project.remove());

  test.each(pages.map(([before, after], at) => [before, after, at] as const))('%s', (_before, after, at) => {
    const text = readFileSync(join(project.folder, `templates/pages/page-${at}.html`), 'utf8');
    expect(text).toBe(`${head}\r\n${after}\r\n`);
  });

  test('what was written is told, and what is left', () => {
    for (const words of told) expect(output).toMatch(words);
  });
});
