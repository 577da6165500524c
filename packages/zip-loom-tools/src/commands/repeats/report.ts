/** The page of `repeats --html`. */
import { counted, kilobytes } from 'zip-loom/internal/diagnostics';
import type { TemplateTree } from 'zip-loom/internal/language';
import { createLoom } from 'zip-loom/internal/node';
import type { Repeat } from '../../analysis/index.ts';

const sources = {
  'pages/report.html': `<meta (takes title, summary, repeats)><!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>\${title}</title>
<style>
:root { color-scheme: light dark; --line: light-dark(#d5dbe1, #39424c); --quiet: light-dark(#51606e, #9fb0bf); --band: light-dark(#2c6e8f, #6fb3d2); --back: light-dark(#f4f6f8, #1b2026); }
body { font: 16px/1.5 system-ui, sans-serif; max-width: 62rem; margin: 0 auto; padding: 1.5rem 1rem 4rem; }
h1 { font-size: 1.5rem; margin: 0 0 .25rem; }
h2 { font-size: 1.1rem; margin: 0; }
article { border-top: 1px solid var(--line); padding: 1.25rem 0; }
.summary, .bytes { color: var(--quiet); margin: .25rem 0; }
.bar { height: .4rem; background: var(--band); border-radius: .2rem; min-width: 2px; }
pre { background: var(--back); padding: .75rem; overflow-x: auto; max-height: 18rem; border-radius: .4rem; }
.scroll { overflow-x: auto; }
table { border-collapse: collapse; }
th, td { text-align: start; padding: .25rem .75rem .25rem 0; vertical-align: top; border-bottom: 1px solid var(--line); }
code { font: .9em/1.5 ui-monospace, monospace; overflow-wrap: anywhere; }
</style>
</head>
<body>
<h1>\${title}</h1>
<p class="summary">\${summary}</p>
<article (for one of repeats)>
<h2>\${one.name}</h2>
<p class="bytes">\${one.saves}</p>
<div class="bar" style="width: \${one.share}%"></div>
<pre tabindex="0" aria-label="Markup of \${one.name}"><code>\${one.markup}</code></pre>
<div class="scroll" tabindex="0" role="group" aria-label="Places of \${one.name}"><table>
<thead><tr><th scope="col">Place</th><th (for name of one.names) scope="col">\${name}</th></tr></thead>
<tbody><tr (for place of one.places)><td><code>\${place.at}</code></td><td (for value of place.values)><code>\${value}</code></td></tr></tbody>
</table></div>
</article>
<p (else)>Nothing stands twice.</p>
</body>
</html>
`,
};

export async function repeatsReport(
  repeats: readonly Repeat[],
  { trees, bytes }: { trees: readonly TemplateTree[]; bytes: number },
): Promise<string> {
  const loom = await createLoom({ sources, mode: 'production', logger: false });
  const sourceOf = new Map(trees.map(({ file, source }) => [file, source]));
  const most = Math.max(1, ...repeats.map(({ saving }) => saving));
  const saving = repeats.reduce((sum, one) => sum + one.saving, 0);
  return loom.render('report', {
    title: 'What stands in several places',
    summary: `${counted(repeats.length, 'repeat')} in ${counted(trees.length, 'file')} of ${kilobytes(bytes)}: ${kilobytes(saving)} could be left out.`,
    repeats: repeats.map(({ name, saving: saved, places, differences }) => ({
      name,
      saves: `Saves ${kilobytes(saved)}, ${counted(places.length, 'place')}`,
      share: Math.max(1, Math.round((100 * saved) / most)),
      markup: flush(sourceOf.get(places[0]!.file)!.slice(places[0]!.start, places[0]!.end)),
      names: differences.map((one) => one.name),
      places: places.map(({ file, firstLine, lastLine }, at) => ({
        at: `${file}:${firstLine}–${lastLine}`,
        values: differences.map(({ values }) => values[at]),
      })),
    })),
  });
}

/** Lines behind the first begin as far to the left as the leftmost of them. */
function flush(markup: string): string {
  const [first = '', ...lines] = markup.split('\n');
  const indents = lines.filter((line) => line.trim() !== '').map((line) => line.length - line.trimStart().length);
  const least = indents.length === 0 ? 0 : Math.min(...indents);
  return [first, ...lines.map((line) => line.slice(least))].join('\n');
}
