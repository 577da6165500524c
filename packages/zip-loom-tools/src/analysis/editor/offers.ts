/** What may be meant by something that is wrong, and is not sure: an editor offers it. */
import type { Compilation, Template } from 'zip-loom/internal/compiler';
import type { TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { clauseOf } from 'zip-loom/internal/language';
import type { Edit } from '../edit.ts';
import { templateAt } from './places.ts';

export interface Offer {
  diagnostic: TemplateDiagnostic;
  title: string;
  edits: readonly Edit[];
}

/** A name that nobody knows may be one that the template is to take. */
export function offersOf(diagnostics: readonly TemplateDiagnostic[], compilation: Compilation): Offer[] {
  return diagnostics.flatMap((diagnostic) => {
    const tree = diagnostic.code === 'unknown-name' ? compilation.treeOf(diagnostic.file) : undefined;
    const template = tree && templateAt(compilation.set, tree, diagnostic.span.start);
    const { name } = diagnostic.facts as { name: string };
    if (!template || !/^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name)) return [];
    return [{ diagnostic, title: `Take “${name}” as a parameter`, edits: [taking(template, name)] }];
  });
}

function taking({ definition, parameters }: Template, name: string): Edit {
  const takes = definition && clauseOf(definition, 'takes');
  // A rest stays the last.
  const rest = parameters.find(({ kind }) => kind === 'rest');
  if (rest) return at(rest.start, `${name}, `);
  if (takes) return at(takes.end - 1, parameters.length > 0 ? `, ${name}` : ` ${name}`);
  if (definition) return at(definition.startTag.end - 1, ` (takes ${name})`);
  return at(0, `<meta (takes ${name})>\n`);
}

function at(offset: number, text: string): Edit {
  return { start: offset, end: offset, text };
}
