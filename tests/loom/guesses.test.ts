/** What people try first: it works, or the answer says what is written instead. */
import { describe, expect, test } from '@jest/globals';
import { errors, render } from '../support/templates.ts';

describe('clauses', () => {
  test.each([
    ['(foreach x of xs)', '(for item of items)'],
    ['(each xs as x)', '(for item of items)'],
    ['(repeat 5)', '(for item of items)'],
    ['(unless a)', '(if !condition)'],
    ['(elseif a)', '(else if condition)'],
    ['(else-if a)', '(else if condition)'],
    ['(elsif a)', '(else if condition)'],
    ['(switch a)', '(else if b)'],
    ['(case 1)', '(else if b)'],
    ['(with a = b)', '(let name = value)'],
    ['(set a = b)', '(let name = value)'],
    ['(props a, b)', '(takes name: Type'],
    ['(include berth-card)', '<berth-card berth=${berth}></berth-card>'],
    ['(component berth-card)', '<berth-card berth=${berth}></berth-card>'],
    ['(extends site-layout)', '(layout site-layout)'],
    ['(block main)', '<slot name="sidebar"></slot>'],
    ['(yield)', '<slot name="sidebar"></slot>'],
    ['(section main)', '<slot name="sidebar"></slot>'],
    ['(raw text)', '${trustedHTML(text)}'],
    ['(html text)', '${trustedHTML(text)}'],
    ['(error name)', '(errors field)'],
    ['(super)', '<slot (inherited)></slot>'],
    ['(parent)', '<slot (inherited)></slot>'],
    ['(poll 2s)', '(region name poll="2s")'],
    ['(polls 2s)', '(region name poll="2s")'],
    ['(lazy)', 'when="near"'],
    ['(suspense)', '(await value = promise)'],
    ['(pending)', '(meanwhile)'],
    ['(rescue e)', '(catch error)'],
    ['(form boat)', '(bind form)'],
    ['(head)', '(into head)'],
    ['(onclick f())', 'an event listener in a script'],
    ['(class {a: b})', 'class=${['],
    ['(macro row)', '(named row-name)'],
    ['(text a)', '${value} in the content'],
    ['(endif)', 'a clause ends with its element'],
    ['(channel boats)', 'there are no channels so far'],
    ['(UNLESS a)', '(if !condition)'],
    ['(IF a)', 'Did you mean “if”?'],
    ['(elze)', 'Did you mean “else”?'],
    ['(xyzzy)', 'Parentheses in a tag are clauses'],
  ])('%s', async (clause, hint) => {
    const [error] = await errors(`<p ${clause}>x</p>`);
    expect([error?.code, error?.hint]).toEqual(['unknown-clause', expect.stringContaining(hint)]);
  });

  test.each([
    ['<p (for x in xs)>x</p>', '“of” is meant'],
    ['<p (for let x of xs)>x</p>', '“let” is left out'],
    ['<p (if ${a})>x</p>', 'an expression is here by itself, without ${ }'],
    ['<p (for ${x} of xs)>x</p>', 'an expression is here by itself, without ${ }'],
  ])('%s', async (markup, reason) => {
    const [error] = await errors(markup);
    expect([error?.code, error?.message]).toEqual(['invalid-clause', expect.stringContaining(reason)]);
  });

  test('names may be in quotes', async () => {
    const sources = {
      'layouts/site-layout.html': '<body><slot name="side"></slot><slot></slot></body>',
      'partials/rows.html': "<template (named 'row-name')><i>row</i></template>",
    };
    const page = '<meta (layout "site-layout")><b (region "a-${1}")><row-name/></b><u slot="side">s</u>';
    expect(await render(page, {}, sources)).toBe('<body><u>s</u><b data-loom-region="a-1"><i>row</i></b></body>');
  });

  test.each([
    ['polls="2s"', 'Write poll="2s".'],
    ['every=2', 'Write poll="2s".'],
    ['interval="2s"', 'Write poll="2s".'],
    ['src="/x"', 'Write from="/path".'],
    ['lazy', 'Write when="near".'],
    ['topic="x"', 'channel="arrivals"'],
    ['colour="x"', 'After the name you can write'],
  ])('a region with %s', async (setting, hint) => {
    const [error] = await errors(`<p (region a ${setting})>x</p>`);
    expect(error?.message).toContain(hint);
  });

  test.each(['(region a b)', '(region name=a)', '(region page)', '(region "a b")'])(
    '%s has no name that can be',
    async (clause) => {
      const found = await errors(`<p ${clause}>x</p>`);
      expect(found.map(({ code }) => code)).toEqual([
        clause === '(region a b)' ? 'unknown-region-setting' : 'invalid-region-name',
      ]);
    },
  );
});

describe('clauses in places where they mean nothing', () => {
  const card = { 'partials/a-b.html': '<i>x</i>' };
  test.each([
    ['<p (inherited)>x</p>', 'refused-clause'],
    ['<slot (inherited)></slot>', 'refused-clause'],
    ['<p (named row)>x</p>', 'refused-clause'],
    ['<p>x</p><template (if 1)><p (named a-row)>x</p></template>', 'refused-clause'],
    ['<meta (takes a) (if a)>${a}', 'refused-clause'],
    ['<meta (takes a) charset="utf-8">${a}', 'lost-attribute'],
    ['<template (named a-row) class="x">y</template>', 'lost-attribute'],
    ['<a-b (region n)></a-b>', 'refused-clause'],
    ['<slot (region n)></slot>', 'refused-clause'],
    ['<title (region n)>x</title>', 'refused-clause'],
    ['<script (region n)></script>', 'refused-clause'],
    ['<p (takes a)>x</p>', 'refused-clause'],
    ['<p>x</p><meta (takes a)>', 'refused-clause'],
  ])('%s', async (markup, code) => {
    expect((await errors(markup, card)).map((error) => error.code)).toEqual([code]);
  });
});

describe('names in expressions', () => {
  test.each([
    ['title', 'write <meta (takes title)> at the start of the file'],
    ['req', 'is in “context”'],
    ['props', 'Take each value by its name'],
    ['window', 'A template knows no browser'],
    ['process', 'give it the value as data'],
    ['formatDate(a)', 'Write date(value)'],
    ['csrfToken', 'has its token by itself'],
    ['children', '<slot></slot>'],
    ['raw(a)', 'Write trustedHTML(text)'],
    ['include("a")', 'A template is called by its name'],
    ['loop', '(for item, index of items)'],
    ['helpers.formatDate(a)', 'There are date, time,'],
  ])('${%s}', async (expression, hint) => {
    const found = await errors(`<meta (takes a)>\${${expression}}`);
    expect([found[0]?.code, found[0]?.hint]).toEqual(['unknown-name', expect.stringContaining(hint)]);
  });
});

test.each([
  ['<include src="x">', 'A template is called by its name'],
  ['<yield></yield>', '<slot name="sidebar"></slot>'],
  ['<extends name="x">', '(layout site-layout)'],
  ['<if a></if>', 'Write a clause on an element'],
  ['<BoatForm>x</BoatForm>', 'A template is called by a name with a hyphen: <boat-form>.'],
])('%s is printed, with a warning', async (markup, hint) => {
  expect(await render(markup, {}, {}, { logger: false })).toBe(markup);
  const [warning] = await errors(markup);
  expect([warning?.code, warning?.severity, warning?.hint]).toEqual([
    'unknown-element',
    'warning',
    expect.stringContaining(hint),
  ]);
});

test.each([
  '<HTML><HEAD></HEAD><BODY>x</BODY></HTML>',
  '<svg><linearGradient/><foreignObject></foreignObject></svg>',
  '<Div>x</Div>',
])('%s is HTML like any other', async (markup) => {
  expect(await errors(markup)).toEqual([]);
});

describe('what cannot be read comes alone: what only follows from it is not told', () => {
  test.each<[string, string, Record<string, string>, string[]]>([
    ['names that a clause would bind', '<p (for x of [1)>${x}</p><p (else)>y</p>', {}, ['invalid-clause']],
    ['what a template would take', '<meta (takes a: )>${a}<p>${b}</p>', {}, ['invalid-clause']],
    ['what was wrong before it', '${b}<p (if )>${c}</p>', {}, ['unknown-name', 'invalid-clause']],
    [
      'calls of a template that cannot be read',
      '<a-c x="1"><p slot="z">q</p>y</a-c>',
      { 'a-c.html': '<meta (takes a: )>x' },
      ['invalid-clause'],
    ],
    [
      'a layout that cannot be read',
      '<meta (layout a-l wide)><p slot="side">x</p>y',
      { 'a-l.html': '<meta (takes a: )>x' },
      ['invalid-clause'],
    ],
  ])('%s', async (_what, page, sources, codes) => {
    expect((await errors(page, sources)).map((error) => error.code).sort()).toEqual(codes.sort());
  });
});
