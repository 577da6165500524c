/** Pages may have any name: reserved words, names of the generated code, of ECMAScript’s own objects. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { makeProject, type Project } from '../support/projects.ts';
import { secret } from '../support/settings.ts';

const names =
  // ECMA-262 §12.7.2, and words that are reserved in places.
  (
    'await break case catch class const continue debugger default delete do else enum export extends false finally for function if ' +
    'import in instanceof new null return super switch this throw true try typeof var void while with yield ' +
    'let static implements interface package private protected public arguments eval async of get set ' +
    // What generated code and every object has.
    'undefined NaN Infinity Math JSON String Object Array runtime link templates built out values fills text render index ' +
    'constructor toString hasOwnProperty __proto__ prototype 404 404-not-found a-b a.b a_b.c aB häfen ‘quoted’ x$y'
  ).split(' ');
const textOf = (name: string) => `<p>${name} \${JSON.stringify([undefined, Math.max(1, 2), String(NaN)])}</p>`;
const pageOf = (name: string) => `<p>${name} [null,2,&quot;NaN&quot;]</p>`;
const sources = Object.fromEntries(names.map((name) => [`pages/${name}.html`, textOf(name)]));

test('while they are compiled', async () => {
  const loom = await createLoom({ sources, secret });
  const pages = await Promise.all(names.map((name) => loom.render(name)));
  expect(pages).toEqual(names.map(pageOf));
});

describe('when they are built', () => {
  let project: Project;
  beforeAll(() => {
    project = makeProject({
      ...Object.fromEntries(Object.entries(sources).map(([path, text]) => [`templates/${path}`, text])),
      'run.js': `import { built } from './build/templates/index.js';
import { createBuiltLoom } from 'zip-loom/built';
const loom = await createBuiltLoom({ built });
console.log(JSON.stringify(await Promise.all(${JSON.stringify(names)}.map((name) => loom.render(name)))));`,
    });
  });
  afterAll(() => project.remove());

  test('all of them are there', () => {
    expect(project.loom('build')).toMatchObject({ status: 0, stderr: '' });
    expect(project.run('run.js')).toEqual(names.map(pageOf));
  });
});
