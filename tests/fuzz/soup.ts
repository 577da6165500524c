/** Templates made of pieces in any order: they compile, or have problems with names and places. Nothing else happens. */

import { createLoom, LoomError, TemplateError } from 'zip-loom';
import type { Random } from '../../examples/harbour/data/random.ts';
import { quietLogger } from '../support/settings.ts';

const pieces = [
  ...'< > </ /> <p <p> </p> <b> </b> <svg> </svg> <math> <title> </title> <textarea> </textarea> <script> </script> <style> </style>'.split(
    ' ',
  ),
  ...'<template> <template </template> <slot> </slot> <slot/> <x-y> </x-y> <x-y/> <x-y <q-q> <pre> </pre> <form </form> <select> <option> </select>'.split(
    ' ',
  ),
  ...'<!-- --> <!--( )--> <![CDATA[ ]]> <!doctype <? " \' = ( ) ${ } ${a} ${...a} \\ \\${ { } [ ] ` => a b . , ; : ? ! + - * / 1 & &amp;'.split(
    ' ',
  ),
  '(if a)',
  '(else)',
  '(else if b)',
  '(for x of a)',
  '(for {x = y} of a)',
  '(for x, i of a) ',
  '(let c = a, d = c)',
  '(await w = a)',
  '(meanwhile)',
  '(catch error)',
  '(takes a, b)',
  '(named a-b)',
  '(layout x-y)',
  '(layout none)',
  '(import { T } from "x")',
  '(region r)',
  '(region r-${a} poll="2s")',
  '(bind a)',
  '(errors a)',
  '(into head)',
  '(inherited)',
  '(unknown)',
  '(if',
  ' slot="a"',
  ' slot',
  ' name="n"',
  ' class=${a}',
  ' class="x ${a}"',
  ' style="--a: ${a}"',
  ' style="${a}"',
  ' href="/${a}"',
  ' href=${a}',
  ' onclick=${a}',
  ' srcset="${a} 1x, /${b} 2x"',
  ' type="application/json"',
  ' method="post"',
  ' action=${a}',
  ' ',
  '\n',
  '\t',
  '\u0000',
  '\ud800',
  '😀',
];

/** Compiles and renders one random template, and tells what is wrong, if anything. */
export async function trySoup(random: Random): Promise<string | undefined> {
  const soup = () => Array.from({ length: random.between(1, 25) }, () => random.pick(pieces)).join('');
  const take = random.between(0, 1) === 0 ? '<meta (takes a = "x", b = [1])>' : '';
  const page = take + soup();
  const part = soup();
  try {
    const loom = await createLoom({
      mode: 'development',
      sources: { 'pages/page.html': page, 'partials/x-y.html': part },
      assets: new Map([['x', '/x']]),
      timeout: 50,
      logger: quietLogger,
    });
    for (const error of loom.check().errors) {
      if (!(error instanceof TemplateError) || error.line < 1 || !error.format().includes(error.code))
        return `has a problem without a place: ${JSON.stringify([page, part])}`;
    }
    await loom.render('page');
    return undefined;
  } catch (error) {
    const isOurs = error instanceof TemplateError || error instanceof LoomError;
    return isOurs ? undefined : `threw ${String(error)}: ${JSON.stringify([page, part])}`;
  }
}
