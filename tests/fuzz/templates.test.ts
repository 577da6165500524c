/** Extreme templates: each compiles in a time that grows with its size, or is a problem with a name. Nothing ends the process. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, TemplateError } from 'zip-loom';
import { growth } from '../support/growth.ts';
import { quietLogger } from '../support/settings.ts';

type Make = (size: number) => string;

const times = (text: string, count: number) => text.repeat(Math.max(0, count));
const numbered = (count: number, make: (index: number) => string, between = '') =>
  Array.from({ length: count }, (_, index) => make(index)).join(between);

/** Templates that are written wrong, or go beyond a limit: the code of the first problem. */
const refused: Array<[name: string, make: Make, code: string]> = [
  ['nested elements', (n) => times('<div>', n) + times('</div>', n), 'nested-too-deeply'],
  ['elements without an end', (n) => times('<b>x', n), 'nested-too-deeply'],
  ['nested conditions', (n) => times('<p (if 1)>', n) + times('</p>', n), 'nested-too-deeply'],
  ['nested groups', (n) => times('<template (if 1)>', n) + times('</template>', n), 'nested-too-deeply'],
  ['nested calls', (n) => times('<x-y>', n) + times('</x-y>', n), 'nested-too-deeply'],
  ['alternatives', (n) => `<p (if 0)></p>${times('<p (else if 0)></p>', n)}`, 'too-many-alternatives'],
  [
    'alternatives of a fill',
    (n) => `<x-y><p slot="a" (if 0)></p>${times('<p slot="a" (else if 0)></p>', n)}</x-y>`,
    'too-many-alternatives',
  ],
  ['clauses in a tag', (n) => `<p ${numbered(n, (i) => `(let a${i} = 1)`, ' ')}></p>`, 'too-many-clauses'],
  ['values of a clause', (n) => `<p (let ${numbered(n, (i) => `a${i} = 1`, ', ')})></p>`, 'invalid-clause'],
  ['unfinished substitutions', (n) => times('${', n), 'missing-brace'],
  ['unfinished texts in substitutions', (n) => times('${`', n), 'missing-brace'],
  ['unfinished clauses', (n) => `<p ${times('(if (', n)}`, 'missing-parenthesis'],
  ['unknown clauses', (n) => times('<p (zzz)>', n), 'unknown-clause'],
  ['wrong ends of elements', (n) => `<div>${times('<p (if 1)></div>', n)}`, 'invalid-nesting'],
  ['unknown names', (n) => numbered(n, (i) => `\${a${i}}`), 'unknown-name'],
  ['unknown slots', (n) => `<x-y>${numbered(n, (i) => `<p slot="s${i}">x</p>`)}</x-y>`, 'unknown-slot'],
  ['long names', (n) => `<meta (takes ${times('a', n)})>\${${times('a', n)}b}`, 'unknown-name'],
  ['brackets in an expression', (n) => `\${${times('(', n)}1${times(')', n)}}`, 'invalid-expression'],
  ['signs in an expression', (n) => `\${${times('!', n)}1}`, 'invalid-expression'],
  ['sums', (n) => `\${1${times('+1', n)}}`, 'invalid-expression'],
  ['fields of fields', (n) => `<meta (takes a)>\${a${times('.b', n)}}`, 'invalid-expression'],
  [
    'groups in a regular expression',
    (n) => `\${/${times('(', 170 * n)}a${times(')', 170 * n)}/.test('a')}`,
    'invalid-expression',
  ],
  ['arguments of a call', (n) => `\${String(${times('1,', 25 * n)}1)}`, 'refused-expression'],
  ['functions in functions', (n) => `\${${times('()=>', n)}1}`, 'invalid-expression'],
  ['statements in functions', (n) => `\${()=>{${times('if(1)', n)};}}`, 'invalid-expression'],
  ['texts in texts', (n) => `\${${times('`${', n)}1${times('}`', n)}}`, 'invalid-expression'],
  ['patterns in patterns', (n) => `<p (for ${times('[', n)}x${times(']', n)} of [])></p>`, 'invalid-clause'],
  ['spaces in an import', (n) => `<meta (import { A }${times(' ', n)}x)>`, 'invalid-clause'],
];

/** Templates that are only long. */
const long: Array<[name: string, make: Make]> = [
  ['spaces', (n) => `x${times(' ', n)}y<p (if 1)>a</p>${times(' ', n)}z<template (if 1)>\n${times(' ', n)}</template>`],
  ['spaces in keywords', (n) => `<script type="x${times(' ', 8 * n)}y">z</script>`],
  ['line breaks', (n) => `<p>x</p>${times('\n', n)}y${times('\n ', n)}<b (if 1)>z</b>`],
  ['spaces in a tag', (n) => `<p${times(' ', n)}(if${times(' ', n)}1${times(' ', n)})>x</p>`],
  ['spaces in what a template takes', (n) => `<meta (takes${times(' ', n)}a${times(' ', n)}= 1)>x`],
  ['spaces in URLs', (n) => `<style>a{b:url(${times(' ', n)}x)}</style><img srcset="${times(' ', n)}\${1} 1x">`],
  ['commas', (n) => `<img srcset="${times(',', n)}x${times(',', n)}">`],
  ['backslashes', (n) => `${times('\\', n)}x\${1}<p title="${times('\\', n)}">${times('\\', n)}\${1}`],
  ['wrong ends', (n) => times('<div>', 300) + times('</p>', n)],
  ['comments between alternatives', (n) => `<p (if 0)>x</p>${times('<!--a-->', n)}<p (else)>y</p>`],
  ['notes', (n) => times('<!--( a )-->\n', n)],
  ['markup that never ends', (n) => `${times('<', n)}${times('<!--', n)}`],
  ['scripts in scripts', (n) => `<script>${times('<!--<script>', n)}</script>`],
  ['quotes that never end', (n) => times('<a b="', n)],
  ['values', (n) => times('${1}', n)],
  ['values in a title', (n) => `<title>${times('${1}', n)}</title>`],
  ['values in JSON', (n) => `<script type="application/json">[${times('${1},', n)}1]</script>`],
  ['values in a style', (n) => `<p style="${times('--a: ${1};', n)}">x</p>`],
  ['attributes', (n) => `<p ${numbered(n, (i) => `a${i}=\${1}`, ' ')}>x</p>`],
  ['attributes without values', (n) => `<p ${numbered(25 * n, (i) => `a${i}=1`, ' ')}>x</p>`],
  ['attributes of a call', (n) => `<x-y ${numbered(5 * n, (i) => `a${i}=1`, ' ')}></x-y>`],
  ['attributes beside a list of them', (n) => `<p \${...{}} ${numbered(5 * n, (i) => `a${i}=1`, ' ')}>x</p>`],
  ['JSON', (n) => `<script type="application/json">[${times('"a",', 60 * n)}1]</script>`],
  ['classes in a regular expression', (n) => `\${/${times('[a]', n)}/.test('a')}`],
  ['conditions', (n) => times('<p (if 1)>x</p>', n)],
  ['lists', (n) => times('<p (for x of [1])>${x}</p><i (else)>y</i>', n)],
  ['calls', (n) => times('<x-y></x-y>', n)],
  ['slots', (n) => numbered(n, (i) => `<slot name="s${i}">x</slot>`)],
  ['regions', (n) => numbered(n, (i) => `<p (region r${i})>x</p>`)],
  ['parameters', (n) => `<meta (takes ${numbered(n, (i) => `a${i} = 1`, ', ')})>\${a1}`],
];

async function compile(source: string): Promise<string> {
  const loom = await createLoom({
    mode: 'development',
    sources: {
      'pages/page.html': source,
      'partials/x-y.html': '<meta (takes ...rest)><slot></slot><slot name="a"></slot>',
    },
    assets: new Map([['x', '/x']]),
    logger: quietLogger,
  });
  const [error] = loom.check().errors;
  if (error) {
    expect(error.format().length).toBeLessThan(1000);
    expect(() => loom.renderSync('page')).toThrow(TemplateError);
    return error.code;
  }
  await loom.render('page');
  return 'none';
}

describe('extreme templates', () => {
  test.each(refused)('%s are a problem', async (_name, make, code) => {
    expect(await compile(make(3000))).toBe(code);
    expect(await growth((size) => compile(make(size)), 3000)).toBeLessThan(11);
  });

  test.each(long)('%s are only long', async (_name, make) => {
    expect(await compile(make(1000))).toBe('none');
    expect(await growth((size) => compile(make(size)), 1000)).toBeLessThan(11);
  });

  test('no more than a hundred problems of a file are told', async () => {
    const loom = await createLoom({ mode: 'development', sources: { 'pages/page.html': times('${a}', 500) } });
    expect(loom.check().errors).toHaveLength(100);
  });

  test.each<[string, string, string]>([
    ['elements', '<div>', '</div>'],
    ['conditions', '<p (if 1)>', '</p>'],
    ['lists', '<p (for x of [1])>', '</p>'],
    ['calls', '<x-y>', '</x-y>'],
    ['fills', '<x-y><p slot="a">', '</p></x-y>'],
  ])('as many %s as are allowed can be rendered', async (_name, start, end) => {
    let [allowed, tooMany] = [80, 3000];
    const compiles = async (depth: number) => (await compile(times(start, depth) + times(end, depth))) === 'none';
    expect([await compiles(allowed), await compiles(tooMany)]).toEqual([true, false]);
    while (tooMany - allowed > 1) {
      const depth = Math.floor((allowed + tooMany) / 2);
      if (await compiles(depth)) allowed = depth;
      else tooMany = depth;
    }
  });
});
