/** Everything that is wrong with the templates of a project, now and after each change. */
import { markupFindings } from '../analysis/index.ts';
import { type Compilation, isBuiltIn } from '../compiler/index.ts';
import { type TemplateDiagnostic, TemplateError } from '../diagnostics/index.ts';
import { type CompiledProject, compileProject, type Project } from '../node/index.ts';
import { namedInCode } from './named-in-code.ts';
import { checkTypes } from './type-check.ts';

export class ProjectCheck {
  private readonly project: Project;
  private readonly withTypes: boolean;
  private compilation: Compilation | undefined;
  /** Whether the project’s TypeScript could be asked. */
  hasTypeScript = false;

  constructor(project: Project, { types }: { types: boolean }) {
    this.project = project;
    this.withTypes = types;
  }

  /**
   * All errors as the files are now.
   * @throws {LoomError} where the templates or the assets cannot be read
   */
  async errors(): Promise<TemplateError[]> {
    const compiled = this.compile();
    const { compilation, assets } = compiled;
    const { folder, file, options } = this.project;
    // TypeScript is at work meanwhile.
    const typing = this.withTypes ? checkTypes(compilation, { folder, configuration: file }) : Promise.resolve([]);
    typing.catch(() => {});
    const errorOf = (one: TemplateDiagnostic) => new TemplateError(one, { source: compilation.sourceOf(one.file) });
    const markup = markupFindings(compilation, {
      isNamed: namedInCode(folder),
      routes: options.routes,
      base: compilation.base,
      isFile: (path) => assets?.has(path.slice(1)) ?? false,
    });
    const found = [...compiled.errors, ...markup.map(errorOf)];
    const known = compilation.diagnostics();
    const types = await typing;
    this.hasTypeScript = types !== undefined;
    const typed = (types ?? []).filter((one) => !known.some((other) => saysMore(other, one)));
    return [...found, ...typed.map(errorOf)].sort(inOrder);
  }

  /** The project’s own templates, by their names in messages. */
  files(): string[] {
    const { set } = this.compilation ?? this.compile().compilation;
    return [...set.files].flatMap(([{ file }, { templates }]) => (templates.some(isBuiltIn) ? [] : [file]));
  }

  /** Every place where a template trusts a value. */
  trusted(): ReturnType<Compilation['trusted']> {
    return this.compile().compilation.trusted();
  }

  private compile(): CompiledProject {
    const compiled = compileProject(this.project.options, this.compilation);
    this.compilation = compiled.compilation;
    return compiled;
  }
}

/** Whether the compiler of templates has said something of the same place, in words that are about templates. */
function saysMore(known: TemplateDiagnostic, typed: TemplateDiagnostic): boolean {
  return known.file === typed.file && known.span.start < typed.span.end && typed.span.start < known.span.end;
}

function inOrder(one: TemplateError, other: TemplateError): number {
  if (one.file !== other.file) return one.file < other.file ? -1 : 1;
  return one.line - other.line || one.column - other.column;
}
