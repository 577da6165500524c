/** Marks around what each template writes, for pages that are inspected in development. */
import type { Linker, Template } from '../../compiler/index.ts';
import type { Render } from '../../kernel/index.ts';
import { partEnd, partStart } from '../../protocol/index.ts';
import { dataInWords } from './data-words.ts';

/** So much of what a template was given is told. */
const mostLetters = 1500;

/** The same template, with marks around what it writes where somebody wants them. */
export function inspected(template: Template, render: Render, linker: Linker): Render {
  const { name, tree, definition } = template;
  const { line } = tree.lines.at(definition?.start ?? 0);
  return (out, values, fills, layout) => {
    if (!out.settings.isInspected) {
      render(out, values, fills, layout);
      return;
    }
    const [place] = linker.placesOf(new Error());
    const caller = place && {
      file: place.template.tree.file,
      line: place.template.tree.lines.at(place.offset).line,
    };
    const given = dataInWords(values).slice(0, mostLetters);
    out.s += partStart({ template: name, file: tree.file, line, caller, given });
    const start = performance.now();
    render(out, values, fills, layout);
    out.s += partEnd(performance.now() - start);
  };
}
