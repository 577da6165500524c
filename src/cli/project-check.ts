/** Everything that is wrong with the templates of a project, now and after each change. */
import { fixesOf, markupFindings } from '../analysis/index.ts';
import { type Compilation, isBuiltIn } from '../compiler/index.ts';
import { type TemplateDiagnostic, TemplateError } from '../diagnostics/index.ts';
import { type CompiledProject, compileProject, type Project } from '../node/index.ts';
import { type FixedPlace, writeFixes } from './fixes.ts';
import { namedInCode } from './named-in-code.ts';
import { siteRoutes } from './site-routes.ts';
import { TypeCheck } from './type-check.ts';

const mostRounds = 10;

export class ProjectCheck {
  private readonly project: Project;
  private readonly types: TypeCheck | undefined;
  private last: CompiledProject | undefined;
  /** Whether the project’s TypeScript could be asked. */
  hasTypeScript = false;

  constructor(project: Project, { types }: { types: boolean }) {
    this.project = project;
    const { folder, file } = project;
    this.types = types ? new TypeCheck({ folder, configuration: file }) : undefined;
  }

  /**
   * Everything that is wrong as the files are now, in the order of files and lines.
   * @throws {LoomError} where the templates or the assets cannot be read
   */
  async diagnostics(): Promise<TemplateDiagnostic[]> {
    const { compilation, assets } = this.compile();
    const { folder, options } = this.project;
    // TypeScript is at work meanwhile.
    const typing = this.types ? this.types.diagnostics(compilation) : Promise.resolve([]);
    typing.catch(() => {});
    const known = compilation.diagnostics();
    const markup = markupFindings(compilation, {
      isNamed: namedInCode(folder),
      routes: siteRoutes(options.routes),
      base: compilation.base,
      isFile: (path) => assets?.has(path.slice(1)) ?? false,
    });
    const types = await typing;
    this.hasTypeScript = types !== undefined;
    const typed = (types ?? []).filter((one) => !known.some((other) => saysMore(other, one)));
    return [...known, ...markup, ...typed].sort(inOrder);
  }

  /** The same, each with its place and its frame. */
  errorsOf(diagnostics: readonly TemplateDiagnostic[]): TemplateError[] {
    const { compilation } = this.compiled();
    return diagnostics.map((one) => new TemplateError(one, { source: compilation.sourceOf(one.file) }));
  }

  /**
   * Writes what is sure to be meant into the files, and looks again, until nothing more is sure.
   * @param isWanted whether a file may be changed
   */
  async fix(isWanted: (file: string) => boolean): Promise<FixedPlace[]> {
    const places: FixedPlace[] = [];
    // A name that is put right can bring another mistake to light, but not for ever.
    for (let round = 0; round < mostRounds; round++) {
      const diagnostics = (await this.diagnostics()).filter(({ file }) => isWanted(file));
      const { compilation } = this.compiled();
      const fixed = writeFixes(fixesOf(diagnostics, compilation.set), (file) => compilation.sourceOf(file));
      if (fixed.length === 0) break;
      places.push(...fixed);
    }
    return places;
  }

  /** The project’s own templates, by their names in messages. */
  files(): string[] {
    const { set } = this.compiled().compilation;
    return [...set.files].flatMap(([{ file }, { templates }]) => (templates.some(isBuiltIn) ? [] : [file]));
  }

  /** Every place where a template trusts a value. */
  trusted(): ReturnType<Compilation['trusted']> {
    return this.compiled().compilation.trusted();
  }

  /** As it was when somebody last looked. */
  private compiled(): CompiledProject {
    return this.last ?? this.compile();
  }

  private compile(): CompiledProject {
    this.last = compileProject(this.project.options, this.last?.compilation);
    return this.last;
  }
}

/** Whether the compiler of templates has said something of the same place, in words that are about templates. */
function saysMore(known: TemplateDiagnostic, typed: TemplateDiagnostic): boolean {
  return known.file === typed.file && known.span.start < typed.span.end && typed.span.start < known.span.end;
}

function inOrder(one: TemplateDiagnostic, other: TemplateDiagnostic): number {
  if (one.file !== other.file) return one.file < other.file ? -1 : 1;
  return one.span.start - other.span.start;
}
