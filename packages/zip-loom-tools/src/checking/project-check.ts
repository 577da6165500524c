/** Everything that is wrong with the templates of a project, now and after each change. */

import { type Compilation, isBuiltIn, type Template } from 'zip-loom/internal/compiler';
import { type TemplateDiagnostic, TemplateError } from 'zip-loom/internal/diagnostics';
import type { CompiledProject } from 'zip-loom/internal/node';
import { type DataType, fixesOf, type MarkupSettings, markupFindings, type SampleSource } from '../analysis/index.ts';
import type { Project } from '../project/index.ts';
import { type FixedPlace, writeFixes } from './fixes.ts';
import { namedInCode } from './named-in-code.ts';
import { sampleSources } from './sample-sources.ts';
import { sitePaths } from './site-paths.ts';
import { TypeCheck } from './type-check.ts';
import { TypeQuestions } from './type-questions.ts';

const mostRounds = 10;

export interface ProjectCheckOptions {
  /** Whether TypeScript is asked. */
  types: boolean;
  /** Texts of files that somebody is writing, by their paths, in place of those on the disk. */
  open?: () => ReadonlyMap<string, string>;
  /** Told why assets cannot be read, as before they are built; the rest is looked at. Default: the error is thrown. */
  onUnreadableAssets?: (error: unknown) => void;
}

export class ProjectCheck {
  private readonly project: Project;
  private readonly typeCheck: TypeCheck | undefined;
  /** What TypeScript knows of places; missing where it is not asked. */
  readonly questions: TypeQuestions | undefined;
  private readonly open: () => ReadonlyMap<string, string>;
  private readonly onUnreadableAssets: ProjectCheckOptions['onUnreadableAssets'];
  private last: CompiledProject | undefined;
  /** What code names and what the site answers, as it was when somebody last looked around. */
  private surroundings: Pick<MarkupSettings, 'isNamed' | 'paths'> | undefined;
  /** Whether the project’s TypeScript could be asked. */
  hasTypeScript = false;

  constructor(project: Project, { types, open, onUnreadableAssets }: ProjectCheckOptions) {
    this.project = project;
    this.onUnreadableAssets = onUnreadableAssets;
    this.open = open ?? (() => new Map());
    const { folder, configuration } = project;
    this.typeCheck = types ? new TypeCheck({ folder, configuration, owner: open ? 'editor' : 'types' }) : undefined;
    this.questions = this.typeCheck && new TypeQuestions(this.typeCheck, () => this.compiled().compilation);
  }

  /**
   * Everything that is wrong as the files are now, in the order of files and lines.
   * @throws {LoomError} where the templates or the assets cannot be read
   */
  async diagnostics(): Promise<TemplateDiagnostic[]> {
    this.refresh();
    this.lookAround();
    // TypeScript is at work meanwhile.
    const typing = this.types();
    typing.catch(() => {});
    const own = this.own();
    return withTypes(own, await typing);
  }

  /** Takes in what has changed. */
  refresh(): Compilation {
    this.last = this.compile(this.open());
    return this.last.compilation;
  }

  /** The templates as they would be if a file had another text. */
  supposing(path: string, text: string): Compilation {
    return this.compile(new Map(this.open()).set(path, text)).compilation;
  }

  /** Looks at the project’s own code and at what the site answers: too much for every letter that somebody types. */
  lookAround(): Pick<MarkupSettings, 'isNamed' | 'paths'> {
    const { folder, options } = this.project;
    this.surroundings = { isNamed: namedInCode(folder), paths: sitePaths(options.paths) };
    return this.surroundings;
  }

  /** What is wrong with the templates, without types. */
  own(): TemplateDiagnostic[] {
    const { compilation, assets } = this.compiled();
    const markup = markupFindings(compilation, {
      ...(this.surroundings ?? this.lookAround()),
      base: compilation.base,
      isFile: (path) => assets?.has(path.slice(1)) ?? false,
    });
    return [...compilation.diagnostics(), ...markup].sort(inOrder);
  }

  /** What TypeScript finds in them. */
  async types(): Promise<TemplateDiagnostic[]> {
    if (!this.typeCheck) return [];
    const found = await this.typeCheck.diagnostics(this.compiled().compilation, this.samples());
    this.hasTypeScript = found !== undefined;
    return found ?? [];
  }

  /** What templates take, by TypeScript; `undefined` where it cannot be asked. */
  async dataTypes(templates: readonly Template[]): Promise<Map<Template, DataType> | undefined> {
    return this.typeCheck?.dataTypes(this.compiled().compilation, templates);
  }

  /** The same, each with its place and its frame. */
  errorsOf(diagnostics: readonly TemplateDiagnostic[]): TemplateError[] {
    const { compilation } = this.compiled();
    return diagnostics.map(
      (one) =>
        new TemplateError(one, {
          source: compilation.sourceOf(one.file) || this.samples().find(({ file }) => file === one.file)?.source || '',
        }),
    );
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
      const fixed = writeFixes(this.project.templates, fixesOf(diagnostics, compilation), (file) =>
        compilation.sourceOf(file),
      );
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

  private samples(): SampleSource[] {
    return this.project.options.sources ? [] : sampleSources(this.project.templates);
  }

  private compile(open: ReadonlyMap<string, string>): CompiledProject {
    const { onUnreadableAssets } = this;
    const settings = { open, ...(onUnreadableAssets ? { onUnreadableAssets } : {}) };
    return this.project.compile(this.last?.compilation, settings);
  }

  /** As it was when somebody last looked. */
  private compiled(): CompiledProject {
    if (!this.last) this.refresh();
    return this.last!;
  }
}

/** All together; where the compiler of templates has said something of a place, TypeScript need not. */
export function withTypes(
  own: readonly TemplateDiagnostic[],
  types: readonly TemplateDiagnostic[],
): TemplateDiagnostic[] {
  const typed = types.filter((one) => !own.some((other) => other.severity === 'error' && saysMore(other, one)));
  return [...own, ...typed].sort(inOrder);
}

/** Whether the compiler of templates has said something of the same place, in words that are about templates. */
function saysMore(known: TemplateDiagnostic, typed: TemplateDiagnostic): boolean {
  return known.file === typed.file && known.span.start < typed.span.end && typed.span.start < known.span.end;
}

function inOrder(one: TemplateDiagnostic, other: TemplateDiagnostic): number {
  if (one.file !== other.file) return one.file < other.file ? -1 : 1;
  return one.span.start - other.span.start;
}
