/** A project’s templates as TypeScript: one module for each, and what they have in common. */
import { type Compilation, isBuiltIn, isBuiltInName, type Template } from 'zip-loom/internal/compiler';
import { namesUsed } from '../names-used.ts';
import { CallWriter } from './call-writer.ts';
import { MappedText, type Piece } from './mapped-text.ts';
import { prelude, preludeModule } from './prelude.ts';
import { TemplateWriter } from './template-writer.ts';

export interface TypedModule {
  /** Below the folder of all modules, with `/` between folders. */
  path: string;
  text: string;
  /** Where its pieces come from; none for what templates have in common. */
  pieces: readonly Piece[];
  template: Template | undefined;
  /** The file that it was written from, where that is not the template. */
  origin?: { file: string; source: string };
}

export interface TypedModulesSettings {
  /** A module as a template’s file names it → as the module of that path names it. */
  importFrom(specifier: string, file: string, module: string): string;
  /** The configuration as the module of that path names it; missing where there is none. */
  configuration?: ((module: string) => string) | undefined;
  /** Whether the project’s own declarations are read. */
  hasDeclarations: boolean;
}

/** Modules for all templates of a project that could be read. Those of the library are taken on trust. */
export function typedModules(compilation: Compilation, settings: TypedModulesSettings): TypedModule[] {
  const { templates } = compilation.set;
  const own = templates.filter((template) => !isBuiltIn(template));
  return [
    {
      path: preludeModule,
      text: prelude({
        configuration: settings.configuration?.(preludeModule),
        hasDeclarations: settings.hasDeclarations,
      }),
      pieces: [],
      template: undefined,
    },
    ...own.map((template) => typedModule(template, compilation, settings)),
  ];
}

/** `partials/fields.html#berth-row` → `partials/fields.html.berth-row.ts` */
export function modulePath({ id }: Template): string {
  return `${id.replace('#', '.')}.ts`;
}

/** The module of one template. */
export function typedModule(
  template: Template,
  compilation: Compilation,
  { importFrom }: Pick<TypedModulesSettings, 'importFrom'>,
): TypedModule {
  const { set } = compilation;
  const path = modulePath(template);
  const up = '../'.repeat(path.split('/').length - 1) || './';
  const body = new MappedText();
  const called = new Map<Template, string>();
  const bodyOf = (other: Template) => {
    if (isBuiltIn(other) || set.broken.has(other.tree)) return undefined;
    const known = called.get(other);
    if (known) return known;
    const name = `$body${called.size}`;
    called.set(other, name);
    return name;
  };
  const calls = new CallWriter({ out: body, set, caller: template, bodyOf });
  const out = new MappedText();
  let givesValues = false;
  if (!set.broken.has(template.tree)) {
    const layout = set.layoutOf(template);
    const filled = layout && calls.writeLayout(layout, template.layoutClause);
    const writer = new TemplateWriter(body, calls, template.tree.source);
    writer.nodes(template.body, filled === undefined ? undefined : { body: filled, takes: new Map() });
    givesValues = writer.givesValues;
  }
  out.write(`import * as $ from ${JSON.stringify(`${up}${preludeModule}`)};\n`);
  for (const [other, name] of called)
    out.write(`import { body as ${name} } from ${JSON.stringify(up + modulePath(other))};\n`);
  writeImports(out, template, (specifier) => importFrom(specifier, template.tree.file, path));
  writeHead(out, template, compilation, givesValues);
  out.append(body);
  out.write('}\n');
  return { path, text: out.toString(), pieces: out.pieces, template };
}

/** Types that the template imports, by the same names. */
function writeImports(out: MappedText, template: Template, importFrom: (specifier: string) => string): void {
  for (const clause of template.imports) {
    const { code } = clause;
    const [, names = '', quoted = ''] = /^(.*?)(["'][^"']*["'])$/s.exec(code) ?? [];
    const place = { start: clause.end - 1 - code.length, end: clause.end - 1 };
    const start = template.tree.source.indexOf(code, clause.start);
    if (start !== -1) place.start = start;
    place.end = place.start + code.length;
    const subject = { kind: 'import' } as const;
    // Both the declaration and a name of it may say that they are types; not both at once.
    const isMarked = /^type\s/.test(names) || /[{,]\s*type\s/.test(names);
    out.write(isMarked ? 'import ' : 'import type ');
    out.same(names, { start: place.start, end: place.start + names.length }, subject);
    out.mapped(
      JSON.stringify(importFrom(quoted.slice(1, -1))),
      { start: place.start + names.length, end: place.end },
      subject,
    );
    out.write(';\n');
  }
}

/**
 * `export function body({ berth, compact = false }: { berth: Berth; compact?: boolean | undefined }) {`
 * @param givesValues whether it has slots: what they give is what it generates
 */
function writeHead(out: MappedText, template: Template, compilation: Compilation, givesValues: boolean): void {
  const { parameters } = template;
  const own = new Set(parameters.map(({ name }) => name));
  for (const name of namesUsed(template)) {
    if (own.has(name)) continue;
    if (compilation.helpers.has(name)) out.write(`const ${name} = $.helper(${JSON.stringify(name)});\n`);
    else if (isBuiltInName(name)) out.write(`const { ${name} } = $;\n`);
  }
  out.write(`export function${givesValues ? '*' : ''} body({ `);
  for (const parameter of parameters) {
    if (parameter.kind === 'rest') out.write('...');
    out.mapped(parameter.name, parameter, { kind: 'expression' });
    if (parameter.kind === 'default') {
      out.write(' = ');
      out.same(parameter.fallback.code, parameter.fallback);
    }
    if (parameter !== parameters.at(-1)) out.write(', ');
  }
  out.write(' }: { ');
  for (const parameter of parameters) {
    if (parameter.kind === 'rest') {
      out.write('[attribute: string]: any; ');
      continue;
    }
    const isOptional = parameter.kind !== 'required';
    out.write(`${parameter.name}${isOptional ? '?' : ''}: `);
    if (parameter.typeSpan) out.same(parameter.type!, parameter.typeSpan, { kind: 'type' });
    else out.write(parameter.kind === 'default' ? typeOfDefault(parameter.fallback.syntax) : 'any');
    out.write(isOptional ? ' | undefined; ' : '; ');
  }
  out.write('}) {\n');
}

/** A parameter without a type has that of its default, as far as that settles it. */
function typeOfDefault(syntax: { type: string; value?: unknown }): string {
  if (syntax.type === 'Literal' && ['string', 'number', 'boolean'].includes(typeof syntax.value))
    return typeof syntax.value;
  return syntax.type === 'TemplateLiteral' ? 'string' : 'any';
}
