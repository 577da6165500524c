/** Clauses, groups and whitespace: a template and what it prints. */
import { describe, expect, test } from '@jest/globals';
import { problems, render } from '../support/templates.ts';

const rows: Array<[name: string, template: string, data: object, output: string]> = [
  ['if holds', '<p (if a)>yes</p>', { a: 1 }, '<p>yes</p>'],
  ['if does not hold', '<p (if a)>yes</p>', { a: 0 }, ''],
  ['else if and else', '<b (if a)>1</b> <b (else if b)>2</b> <b (else)>3</b>', { a: 0, b: 1 }, ' <b>2</b>'],
  ['else', '<b (if a)>1</b> <b (else if b)>2</b> <b (else)>3</b>', { a: 0, b: 0 }, ' <b>3</b>'],
  [
    'a comment between branches goes with the branch after it',
    '<b (if a)>1</b> <!-- c --> <b (else)>2</b>',
    { a: 0 },
    ' <!-- c --> <b>2</b>',
  ],
  [
    'such a comment is not printed with the first branch',
    '<b (if a)>1</b> <!-- c --> <b (else)>2</b>',
    { a: 1 },
    '<b>1</b>',
  ],
  ['a comparison with > in a clause', '<p (if a > 1)>many</p>', { a: 2 }, '<p>many</p>'],
  ['brackets and quotes in a clause', `<p (if [")", '('].includes(a))>found</p>`, { a: ')' }, '<p>found</p>'],
  [
    'for over an array',
    '<ul>\n  <li (for x of a)>${x}</li>\n</ul>',
    { a: [1, 2] },
    '<ul>\n  <li>1</li>\n  <li>2</li>\n</ul>',
  ],
  ['for with an index', '<i (for x, i of a)>${i}${x}</i>', { a: ['p', 'q'] }, '<i>0p</i><i>1q</i>'],
  ['for with a pattern', '<i (for { x, y = 2 } of a)>${x}${y}</i>', { a: [{ x: 1 }] }, '<i>12</i>'],
  ['for over a Map', '<i (for [k, v] of a)>${k}=${v}</i>', { a: new Map([['x', 1]]) }, '<i>x=1</i>'],
  ['for over null', '<i (for x of a)>${x}</i>', { a: null }, ''],
  ['for over a generator', '<i (for x of a)>${x}</i>', { a: new Set([1, 2]).values() }, '<i>1</i><i>2</i>'],
  ['else after for', '<i (for x of a)>${x}</i><b (else)>none</b>', { a: [] }, '<b>none</b>'],
  ['for outside if', '<i (for x of a) (if x > 1)>${x}</i>', { a: [1, 2, 3] }, '<i>2</i><i>3</i>'],
  ['if outside for', '<i (if a) (for x of a)>${x}</i>', { a: undefined }, ''],
  ['let', '<p (let b = a + 1, c = b * 2)>${b} ${c}</p>', { a: 1 }, '<p>2 4</p>'],
  ['let with the outer value of its own name', '<p (let a = a + 1)>${a}</p>${a}', { a: 1 }, '<p>2</p>1'],
  [
    'a left-out element takes the white space before it along',
    '<div>\n  <p (if a)>x</p>\n</div>',
    { a: 0 },
    '<div>\n</div>',
  ],
  ['a group prints its content', '<template (if a)>x<b>y</b></template>', { a: 1 }, 'x<b>y</b>'],
  [
    'a group alone on its lines leaves none',
    '<ul>\n  <template (if a)>\n    <li>x</li>\n  </template>\n</ul>',
    { a: 1 },
    '<ul>\n    <li>x</li>\n</ul>',
  ],
  [
    'a repeated group',
    '<dl>\n  <template (for x of a)>\n  <dt>${x}</dt>\n  </template>\n</dl>',
    { a: [1, 2] },
    '<dl>\n  <dt>1</dt>\n  <dt>2</dt>\n</dl>',
  ],
  [
    'a plain template is HTML’s own',
    '<template id="t"><slot name="x"></slot><p slot="x">${a}</p></template>',
    { a: 1 },
    '<template id="t"><slot name="x"></slot><p slot="x">1</p></template>',
  ],
  ['a void element with a clause', '<hr (if a)><br (if !a)>', { a: 1 }, '<hr>'],
  ['list items without end tags', '<ul><li>a<li>${a}<li (if a)>c</li></ul>', { a: 1 }, '<ul><li>a<li>1<li>c</li></ul>'],
  ['a note is not sent', '<p>a</p>\n<!--( for us )-->\n<p>b</p>', {}, '<p>a</p>\n<p>b</p>'],
  [
    'an alternative at the start of a template brings no line break along',
    '\n<b (if a)>1</b>\n<b (else)>2</b>\n',
    { a: 0 },
    '<b>2</b>\n',
  ],
  ['a note at the start leaves no line', '\n<!--( n )-->\n<p>b</p>', {}, '<p>b</p>'],
  ['a comment is kept and not evaluated', '<!-- ${a} -->', {}, '<!-- ${a} -->'],
  ['escaped substitutions', '\\${a} \\\\${a} \\\\\\${a}', { a: 1 }, '${a} \\1 \\${a}'],
  ['strings and brackets inside a substitution', "${`}${'}'}`} ${({ b: '}' }).b}", {}, '}} }'],
  ['a comma in a substitution', '${(a, 2)}', { a: 1 }, '2'],
  [
    'names that the generated code uses itself',
    '<p (let out = a, text = 2, values = 3, each = 4)>${out}${text}${values}${each}</p>',
    { a: 1 },
    '<p>1234</p>',
  ],
  [
    'an arrow function of the template',
    '<i (for x of a.map((n) => n * 2))>${x}</i>',
    { a: [1, 2] },
    '<i>2</i><i>4</i>',
  ],
];

describe('clauses', () => {
  test.each(rows)('%s', async (_name, template, data, output) => {
    const takes = Object.keys(data).join(', ');
    expect(await render(`<meta (takes ${takes})>${template}`, data)).toBe(output);
  });
});

describe('mistakes in clauses', () => {
  test.each<[string, string, string[]]>([
    ['else alone', '<p (else)>x</p>', ['missing-if@1:4']],
    ['else after text', '<p (if 1)>x</p> text <p (else)>y</p>', ['missing-if@1:25']],
    ['else after for and if', '<p (for x of []) (if x)>x</p><p (else)>y</p>', ['invalid-else@1:33']],
    ['else if after for', '<p (for x of [])>x</p><p (else if 1)>y</p>', ['invalid-else@1:26']],
    ['an unknown clause', '<p (fro x of [])>x</p>', ['unknown-clause@1:4']],
    ['a clause twice', '<p (if 1) (if 2)>x</p>', ['duplicate-clause@1:11']],
    ['a clause without its bracket', '<p (if 1>x</p>', ['missing-parenthesis@1:4']],
    ['a clause without its expression', '<p (if)>x</p>', ['invalid-clause@1:7']],
    ['for without of', '<p (for x in [])>x</p>', ['invalid-clause@1:11']],
    ['let without a value', '<p (let x)>x</p>', ['invalid-clause@1:10']],
    ['takes in the middle', '<p>x</p><meta (takes a)>', ['refused-clause@1:15']],
    ['named not at the top', '<div><template (named a-b)></template></div>', ['refused-clause@1:16']],
    ['a missing end tag', '<div><p (if 1)>x</div>', ['invalid-nesting@1:17']],
    ['a missing end tag at the end', '<p (if 1)>x', ['missing-end-tag@1:1']],
    ['an unfinished substitution', '<p>${a', ['missing-brace@1:4']],
    ['an empty substitution', '<p>${ }</p>', ['missing-expression@1:4']],
    ['a syntax error', '<p>${a b}</p>', ['invalid-expression@1:8']],
    ['TypeScript in an expression', '<p>${1 as number}</p>', ['invalid-expression@1:8']],
    ['an assignment', '<p>${Math.x = 1}</p>', ['refused-expression@1:6']],
    ['await', '<p>${(async () => await 1)()}</p>', ['refused-expression@1:19']],
    ['import()', '<p>${import("x")}</p>', ['refused-expression@1:6']],
    ['an unknown name', '<p>${maht.x}</p>', ['unknown-name@1:6']],
    [
      'a global that is not pure',
      '<p>${globalThis}${process}${fetch}</p>',
      ['unknown-name@1:6', 'unknown-name@1:19', 'unknown-name@1:29'],
    ],
    ['a name outside its clause', '<p (for x of [])>x</p>${x}', ['unknown-name@1:25']],
    ['an attribute on a group', '<template (if 1) class="x">y</template>', ['refused-group-attribute@1:18']],
    [
      'several at once',
      '<p>${a}</p>\n<p (fi 1)>${b c}</p>',
      ['unknown-name@1:6', 'unknown-clause@2:4', 'invalid-expression@2:15'],
    ],
  ])('%s', async (_name, template, expected) => {
    expect(await problems(template)).toEqual(expected);
  });
});

test('text before a named template is content, also where it is a space that does not break', async () => {
  const page = 'a\u00a0<template (named a-row)>x</template>\u00a0b<a-row></a-row>';
  expect(await render(page)).toBe('a\u00a0\u00a0bx');
});

test.each([
  '(import A from "./a")',
  '(import * as A from "./a")',
  '(import A, { B } from "./a")',
  '(import A, * as B from "./a")',
  '(import type { A } from "./a")',
  '(import { type A, B as C } from "./a")',
])('types are brought by %s', async (clause) => {
  expect(await render(`<meta ${clause} (takes a: A)>\${a}`, { a: 1 })).toBe('1');
});
