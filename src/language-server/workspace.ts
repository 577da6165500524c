/** The project that an editor has open: its templates as they are in the editor, and what is wrong with them. */
import { dirname, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { markupFindings } from '../analysis/index.ts';
import type { Compilation } from '../compiler/index.ts';
import { Lines, type Span, type TemplateDiagnostic } from '../diagnostics/index.ts';
import { compileProject, findProject, type Project } from '../node/index.ts';

export class Workspace {
  readonly project: Project;
  private readonly documents: () => readonly TextDocument[];
  private last: Compilation | undefined;
  private isFresh = false;

  private constructor(project: Project, documents: () => readonly TextDocument[]) {
    this.project = project;
    this.documents = documents;
  }

  /** @throws {LoomError} where there is no project around a file */
  static async around(uri: string, documents: () => readonly TextDocument[]): Promise<Workspace> {
    return new Workspace(await findProject(dirname(fileURLToPath(uri))), documents);
  }

  /** Something has changed, in the editor or on the disk. */
  forget(): void {
    this.isFresh = false;
  }

  /** The templates as they are now. */
  get compilation(): Compilation {
    if (this.last && this.isFresh) return this.last;
    const open = new Map(this.documents().map((one) => [fileURLToPath(one.uri), one.getText()]));
    this.last = compileProject(this.project.options, this.last, open).compilation;
    this.isFresh = true;
    return this.last;
  }

  /** What is wrong, by file as messages name it. */
  diagnostics(): Map<string, TemplateDiagnostic[]> {
    const { compilation } = this;
    const markup = markupFindings(compilation, {
      // What code names is the business of the command.
      isNamed: () => true,
      base: compilation.base,
      isFile: () => false,
    });
    const found = new Map<string, TemplateDiagnostic[]>();
    for (const one of [...compilation.diagnostics(), ...markup])
      found.set(one.file, [...(found.get(one.file) ?? []), one]);
    return found;
  }

  /** The name of a document in messages; `undefined` for what is no template of the project. */
  fileOf(uri: string): string | undefined {
    const path = fileURLToPath(uri);
    return [...this.compilation.set.files.keys()].find(({ file }) => resolve(file) === path)?.file;
  }

  /** A span of a file as the protocol has it: lines and columns from 0, columns in UTF-16 code units. */
  rangeOf(file: string, { start, end }: Span) {
    const lines = new Lines(this.compilation.sourceOf(file));
    const place = (offset: number) => {
      const { line, column } = lines.at(offset);
      return { line: line - 1, character: column - 1 };
    };
    return { start: place(start), end: place(end) };
  }
}

/** The URI of a file, as messages name it. */
export function uriOf(file: string): string {
  return pathToFileURL(resolve(file)).href;
}
