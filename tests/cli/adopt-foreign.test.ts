/** `zip-loom adopt` on pages of others: nothing of them is ever code, whatever it looks like. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { type Node, parse } from 'acorn';
import fc from 'fast-check';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeEach(() => {
  project = makeProject({});
});
afterEach(() => project.remove());

/** An expression that leaves a file when it is evaluated, and a name that is looked for in what is compiled. */
const harm = `[].constructor.constructor("import('node:fs').then((fs) => fs.writeFileSync('evaluated', ''))")(intruder)`;

/** Places that a template reads, one for each way in. */
const places: ReadonlyArray<readonly [name: string, markup: string]> = [
  ['if', `<p (if ${harm})>a</p>`],
  ['else', `<p (if true)>a</p><p (else if ${harm})>b</p>`],
  ['let', `<p (let x = ${harm})>a</p>`],
  ['for', `<ul><li (for x of [${harm}])>a</li></ul>`],
  ['await', `<p (await x = ${harm})>a</p>`],
  ['takes', `<meta (takes x = ${harm})>`],
  ['import', `<meta (import { intruder } from "./evil")>`],
  ['layout', `<meta (layout \${${harm}})>`],
  ['bind', `<form (bind ${harm})></form>`],
  ['region', `<section (region a-\${${harm}})>a</section>`],
  ['template', `<template (if ${harm})>a</template>`],
  ['unknown clause', `<button (click)="${harm.replaceAll('"', "'")}" (intruder)>a</button>`],
  ['backslashes before a clause', `<p \\(if ${harm})>a</p><p \\\\(if ${harm})>b</p>`],
  ['text', `<p>\${${harm}}</p>`],
  ['backslashes in text', `<p>\\\${${harm}} \\\\\${${harm}} \\\\\\\${${harm}}</p>`],
  ['nested', `<p>\${'\${${harm}}'}</p>`],
  ['unclosed', `<p>\${ ${harm} </p><p>\${${harm}}</p>`],
  ['title', `<title>\${${harm}}</title>`],
  ['textarea', `<textarea>\${${harm}}</textarea>`],
  ['attribute', `<p title="\${${harm.replaceAll('"', '&quot;')}}" lang='\${${harm.replaceAll("'", '&#39;')}}'>a</p>`],
  ['bare attribute', `<p title=\${intruder()}>a</p>`],
  ['character references', `<p title="&#36;{intruder()}" lang="&dollar;&lbrace;intruder()}">a &#36;{intruder()}</p>`],
  ['spread', `<p \${...${harm.replaceAll(' ', '')}}>a</p>`],
  ['JSON', `<script type="application/json">{"a": "\${${harm.replaceAll('"', "'")}}", "b": \${${harm}}}</script>`],
  ['import map', `<script type="importmap">{"imports": {"a": "/\${intruder()}"}}</script>`],
  ['linked data', `<script type="application/ld+json">[\${intruder()}]</script>`],
  ['script', `<script>const a = \`\${intruder()}\`; // <!-- \${intruder()}\n</script>`],
  ['style', `<style>a::before { content: "\${intruder()}" }</style>`],
  ['comment in a title', `<title><!-- \${${harm}} --></title>`],
  ['script in a comment', `<!-- <script> --><p>\${${harm}}</p><!-- </script> -->`],
  ['a comment that ends at once', `<!--><p>\${${harm}}</p><!-- -->`],
  ['style in an attribute', `<p title="<style>">\${${harm}}</p><p title="</style>">b</p>`],
  ['SVG', `<svg><style>\${${harm}}</style><title>\${${harm}}</title><desc><p (if ${harm})>a</p></desc></svg>`],
  ['MathML', `<math><mi (if ${harm})>\${${harm}}</mi></math>`],
  ['CDATA', `<svg><![CDATA[\${${harm}}]]></svg>`],
  ['end tag', `<p>a</p (if ${harm})>`],
  ['element of scripts', `<x-part title="\${intruder()}" (if ${harm})>\${${harm}}</x-part>`],
  ['form-field', `<form-field name="\${intruder()}" (if ${harm})></form-field>`],
  ['noscript', `<noscript>\${${harm}}</noscript>`],
  ['tag name', `<p\${intruder()}>a</p>`],
  ['attribute name', `<p data-\${intruder()}>a</p>`],
];

/** Fills pages: three with the same frame, in which the markup differs a little, so that layouts, parameters and slots hold it. */
function pageOf(markup: readonly string[], at: number): string {
  const menu = `<nav class="site-nav"><a href="a.html" class="${markup[0]?.replaceAll('"', "'") ?? ''}">A</a></nav>`;
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>Page ${at}</title>
<meta name="description" content="${at} &#36;{[].constructor.constructor(&quot;import('node:fs').then((fs) => fs.writeFileSync('evaluated', ''))&quot;)()} \\\${intruder(${at})}"></head>
<body>${menu}<header class="site-header"><h1>Harbour</h1><p>One frame of all pages, long enough to be a part of its own. It is here on every page, word for word.</p></header>
<main id="main"><h2>${at}</h2>
${markup.join('\n')}
</main><footer><p>Tern Harbour C:\\\\ \${intruder()} \\</p></footer></body>\n</html>\n`;
}

/** Every module that a build wrote: each as its syntax tree. */
function modulesBelow(folder: string): Node[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.js'))
    .map((path) => parse(readFileSync(join(folder, path), 'utf8'), { ecmaVersion: 'latest', sourceType: 'module' }));
}

/** True if the tree has an identifier of this name; texts do not count. */
function reads(node: unknown, name: string): boolean {
  if (Array.isArray(node)) return node.some((one) => reads(one, name));
  if (typeof node !== 'object' || node === null) return false;
  if ('type' in node && node.type === 'Identifier' && 'name' in node && node.name === name) return true;
  return Object.values(node).some((one) => reads(one, name));
}

function adopts(pages: Readonly<Record<string, string>>): { leftOut: string[]; differing: string[] } {
  for (const [name, source] of Object.entries(pages)) project.write(`site/${name}.html`, source);
  const plan = project.loom('adopt', 'site', '--out', 'adopted', '--dry-run', '--json');
  expect([existsSync(join(project.folder, 'evaluated')), plan.stderr]).toEqual([false, '']);
  const made = project.loom('adopt', 'site', '--out', 'adopted', '--force', '--json');
  expect([existsSync(join(project.folder, 'evaluated')), made.stderr]).toEqual([false, '']);
  expect(made.stdout).toBe(plan.stdout);
  project.loom('--project', 'adopted', 'build', '--out', 'built');
  const modules = modulesBelow(join(project.folder, 'adopted/built'));
  expect(modules.length).toBeGreaterThan(0);
  expect(modules.filter((tree) => reads(tree, 'intruder') || reads(tree, 'constructor'))).toEqual([]);
  const told = JSON.parse(made.stdout) as { leftOut: Array<{ path: string }>; differing: Array<{ path: string }> };
  return { leftOut: told.leftOut.map(({ path }) => path), differing: told.differing.map(({ path }) => path) };
}

test('in every place that a template reads', () => {
  const pages = Object.fromEntries(places.map(([, markup], at) => [`page-${at}`, pageOf([markup], at)]));
  const { leftOut, differing } = adopts(pages);
  const named = (paths: readonly string[]) => paths.map((path) => places[Number(path.slice('page-'.length))]![0]);
  // What no template can print is left out, and said to be.
  expect(named(leftOut).sort()).toEqual(['attribute name', 'region', 'tag name']);
  expect(named(differing)).toEqual([]);
});

test('also where pages with such texts share a layout, as its arguments', () => {
  const pages = [1, 2, 3].map((at) => [
    `page-${at}`,
    `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>Page</title><meta name="description" content="About \${intruder(${at})} things"></head>
<body><header><h1>Harbour</h1><p>One frame of all pages, long enough to be a part of its own, word for word.</p></header><main><h2>${at}</h2></main></body></html>\n`,
  ]);
  expect(adopts(Object.fromEntries(pages))).toEqual({ leftOut: [], differing: [] });
  const page = readFileSync(join(project.folder, 'adopted/templates/pages/page-1.html'), 'utf8');
  expect(page).toContain('(layout site-layout description="About \\${intruder(1)} things")');
});

test('in any mixture of them, on pages that share a frame', () => {
  const runs = Number(process.env['FUZZ_RUNS'] ?? 4);
  const seed = Number(process.env['FUZZ_SEED'] ?? 20261201);
  const mixtures = fc.sample(fc.array(fc.subarray([...places], { maxLength: 4 }), { minLength: 3, maxLength: 12 }), {
    numRuns: runs,
    seed,
  });
  for (const pages of mixtures) {
    const sources = pages.map((chosen, at) => [
      `page-${at}`,
      pageOf(
        chosen.map(([, markup]) => markup),
        at,
      ),
    ]);
    const { differing } = adopts(Object.fromEntries(sources));
    const mixed = pages.map((chosen) => chosen.map(([name]) => name));
    expect([differing.map((path) => mixed[Number(path.slice('page-'.length))]), mixed]).toEqual([[], mixed]);
  }
});
