/** The pages of the gallery itself. */
import type { Loom } from 'zip-loom/internal/loom';
import { createLoom } from 'zip-loom/internal/node';
import type { Shown } from './previews.ts';
import { script, style } from './texts.ts';

const sources = {
  'layouts/gallery-layout.html': `<meta (takes up: string, project: string, groups, current?: string)>
<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title><slot name="title"></slot></title>
<link rel="icon" href="data:,">
<link rel="stylesheet" href=\${trustedURL(up + 'gallery.css')}>
<script type="module" src=\${trustedURL(up + 'gallery.js')}></script>
</head>
<body>
<header>
<a href=\${up + 'index.html'}><b>\${project}</b></a>
<fieldset hidden><legend>Colours</legend>
<label (for [value, text] of [['', 'As the system'], ['light', 'Light'], ['dark', 'Dark']])><input type="radio" name="scheme" value=\${value} checked=\${value === ''}> \${text}</label>
</fieldset>
</header>
<nav aria-label="Templates">
<section (for group of groups)>
<h2>\${group.title}</h2>
<ul><li (for one of group.shown)><a href=\${up + one.path + '.html'} aria-current=\${one.path === current ? 'page' : null}>\${one.name}</a></li></ul>
</section>
</nav>
<main>
<slot></slot>
</main>
</body>
</html>
`,
  'pages/index.html': `<meta (takes up: string, project: string, groups) (layout gallery-layout up=\${up} project=\${project} groups=\${groups})>
<template slot="title">\${project}</template>
<h1>\${project}</h1>
<section (for group of groups) class="overview">
<h2>\${group.title}</h2>
<ul>
<li (for one of group.shown)><a href=\${up + one.path + '.html'}><span class="small"><iframe src=\${up + 'preview/' + one.path + '/0.html'} title="" tabindex="-1" loading="lazy" inert></iframe></span>
<b>\${one.name}</b> \${one.samples.length > 1 ? plural(one.samples.length, 'sample', 'samples') : ''}</a></li>
</ul>
</section>
`,
  'pages/template.html': `<meta (takes up: string, project: string, groups, one, widths: number[]) (layout gallery-layout up=\${up} project=\${project} groups=\${groups} current=\${one.path})>
<template slot="title">\${one.name} · \${project}</template>
<h1>\${one.name}</h1>
<section (for sample, at of one.samples) class="sample">
<h2>\${sample ?? 'without data'}</h2>
<div class="widths">
<figure (for width of widths) style="--width: \${width}">
<figcaption><a href=\${up + 'preview/' + one.path + '/' + at + '.html'}>\${width} px</a></figcaption>
<div class="frame"><iframe src=\${up + 'preview/' + one.path + '/' + at + '.html'} title="\${one.name}, \${sample ?? 'without data'}, \${width} pixels wide" loading="lazy" data-fits=\${one.kind === 'partial' ? '' : null}></iframe></div>
</figure>
</div>
</section>
`,
};

/** Those of a small telephone, a tablet and a screen. */
const widths = [360, 768, 1280];

export interface GalleryPages {
  index(): Promise<string>;
  template(one: Shown): Promise<string>;
}

/** @param project its name */
export async function galleryPages(project: string, shown: readonly Shown[]): Promise<GalleryPages> {
  // Names of pages that are not of the user’s project.
  const loom = (await createLoom({ sources, mode: 'production', logger: false })) as Pick<Loom, 'render'> & {
    render(page: string, data: object): Promise<string>;
  };
  const groups = (['page', 'partial'] as const)
    .map((kind) => ({ title: kind === 'page' ? 'Pages' : 'Partials', shown: shown.filter((one) => one.kind === kind) }))
    .filter((group) => group.shown.length > 0);
  return {
    index: () => loom.render('index', { up: './', project, groups }),
    template: (one) =>
      loom.render('template', {
        up: '../'.repeat(one.path.split('/').length - 1) || './',
        project,
        groups,
        one,
        widths,
      }),
  };
}

/** By their names. */
export const galleryFiles: Readonly<Record<string, string>> = { 'gallery.css': style, 'gallery.js': script };
