/** What pages and partials take, as TypeScript: for `render`, `respond` and the like. */
import type { Parameter } from '../../language/index.ts';
import type { Compilation } from '../compilation.ts';
import { isBuiltIn, type Template } from '../set/template.ts';

/** The names that declarations have for files. */
export interface DeclaredNames {
  /** A module as a template names it, and the template’s file → the module as the declarations name it. */
  importFrom(specifier: string, file: string): string;
  /** A template’s file → its name in comments. */
  fileName(file: string): string;
}

/** The text of `templates.d.ts`. */
export function typeDeclarations(compilation: Compilation, { importFrom, fileName }: DeclaredNames): string {
  const { pages, partials } = compilation.set;
  // Of several with one name, the one that code gets.
  const callable = [...partials.names()].flatMap((name) => partials.called(name) ?? []);
  const own = (templates: Iterable<Template>) =>
    [...templates].filter((template) => !isBuiltIn(template)).sort((a, b) => (a.name < b.name ? -1 : 1));
  const entries = (templates: Template[]) =>
    templates.map(
      (template) =>
        `    /** ${fileName(template.tree.file)} */\n    '${template.name}': ${dataType(template, importFrom)};\n`,
    );
  return `// Written by zip-loom from the templates; changes here are lost.
export {};

declare module 'zip-loom' {
  interface Pages {
${entries(own(pages.values())).join('')}  }

  interface Partials {
${entries(own(callable)).join('')}  }
}
`;
}

/** `{ berths: Berth[]; query?: string | undefined }` */
function dataType(template: Template, importFrom: (specifier: string, file: string) => string): string {
  const imported = importedTypes(template, importFrom);
  const typeOf = (parameter: Parameter) => withImports(parameter.type ?? typeOfFallback(parameter), imported);
  const named = template.parameters.filter((parameter) => parameter.kind !== 'rest');
  const fields = named.map((parameter) =>
    parameter.kind === 'required'
      ? `${parameter.name}: ${typeOf(parameter)}`
      : `${parameter.name}?: ${typeOf(parameter)} | undefined`,
  );
  // What falls to the rest may be anything.
  if (template.parameters.some((parameter) => parameter.kind === 'rest')) fields.push('[attribute: string]: unknown');
  return fields.length === 0 ? 'Record<never, never>' : `{ ${fields.join('; ')} }`;
}

/** A parameter without a type has that of its fixed value. */
function typeOfFallback(parameter: Parameter): string {
  const syntax = parameter.kind === 'default' ? parameter.fallback.syntax : undefined;
  if (syntax?.type === 'Literal') return syntax.value === null ? 'unknown' : typeof syntax.value;
  if (syntax?.type === 'TemplateLiteral') return 'string';
  if (syntax?.type === 'ArrayExpression') return 'readonly unknown[]';
  return 'unknown';
}

/** Types that a template imports: their names there → how the declarations name them. */
function importedTypes(
  template: Template,
  importFrom: (specifier: string, file: string) => string,
): Map<string, string> {
  const imported = new Map<string, string>();
  for (const { code } of template.imports) {
    const [, names = '', , specifier = ''] = /^[^{]*\{([^}]*)\}\s*from\s*(["'])(.*?)\2/s.exec(code) ?? [];
    for (const name of names.split(',')) {
      const [, exported, local] = /^\s*(?:type\s+)?([\w$]+)(?:\s+as\s+([\w$]+))?\s*$/.exec(name) ?? [];
      if (exported)
        imported.set(local ?? exported, `import('${importFrom(specifier, template.tree.file)}').${exported}`);
    }
  }
  return imported;
}

function withImports(type: string, imported: ReadonlyMap<string, string>): string {
  // A name after a dot is another’s, one before a colon is that of a field.
  return type.replace(
    /(?<![.\w$])[\p{ID_Start}$_][\p{ID_Continue}$]*(?!\s*\??:)/gu,
    (name) => imported.get(name) ?? name,
  );
}
