/** Sample data of templates as TypeScript: whether it fits what they take. */
import { type Compilation, isBuiltIn } from 'zip-loom/internal/compiler';
import { MappedText } from './mapped-text.ts';
import { modulePath, type TypedModule } from './typed-modules.ts';

/** A file of samples. */
export interface SampleSource {
  /** As messages name it. */
  file: string;
  source: string;
  /** The file of its template, as messages name it. */
  template: string;
}

/**
 * A module for each file of samples whose template could be read.
 * @param importFrom a file as the module of that path names it
 */
export function sampleModules(
  samples: readonly SampleSource[],
  { set }: Compilation,
  importFrom: (file: string, module: string) => string,
): TypedModule[] {
  return samples.flatMap((given): TypedModule[] => {
    const template = set.templates.find((one) => !one.id.includes('#') && one.tree.file === given.template);
    if (!template || isBuiltIn(template) || set.broken.has(template.tree)) return [];
    const { file, source } = given;
    const path = modulePath(template).replace(/\.ts$/, '.samples.ts');
    const out = new MappedText();
    const own = modulePath(template).split('/').at(-1)!;
    out.write(`import type { body } from ${JSON.stringify(`./${own}`)};\n`);
    if (file.endsWith('.json')) {
      out.write('export const checked: Record<string, Parameters<typeof body>[0]> =\n');
      out.same(source, { start: 0, end: source.length }, { kind: 'sample' });
      out.write(';\n');
    } else {
      out.write(`import { samples } from ${JSON.stringify(importFrom(file, path))};\nexport const `);
      const start = Math.max(source.search(/\bsamples\b/), 0);
      out.mapped('checked', { start, end: start + 'samples'.length }, { kind: 'sample' });
      out.write(': Record<string, Parameters<typeof body>[0]> = samples;\n');
    }
    return [{ path, text: out.toString(), pieces: out.pieces, template, origin: { file, source } }];
  });
}
