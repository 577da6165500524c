/** The project that an editor has open: its templates as they are in the editor, and what is wrong with them. */
import { dirname, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { ProjectCheck, withTypes } from '../checking/index.ts';
import type { Compilation } from '../compiler/index.ts';
import type { Span, TemplateDiagnostic } from '../diagnostics/index.ts';
import { findProject, type Project } from '../node/index.ts';

export class Workspace {
  private readonly check: ProjectCheck;
  private readonly documents: () => readonly TextDocument[];
  /** The versions of the documents that were looked at. */
  private versions = '';
  private last: Compilation | undefined;
  /** What TypeScript has found, and the texts of the files that it looked at. */
  private typed: { found: readonly TemplateDiagnostic[]; sources: ReadonlyMap<string, string> } | undefined;

  private constructor(project: Project, documents: () => readonly TextDocument[]) {
    this.documents = documents;
    const open = () => new Map(documents().map((one) => [fileURLToPath(one.uri), one.getText()]));
    this.check = new ProjectCheck(project, { types: true, open });
  }

  /** @throws {LoomError} where there is no project around a file */
  static async around(uri: string, documents: () => readonly TextDocument[]): Promise<Workspace> {
    return new Workspace(await findProject(dirname(fileURLToPath(uri))), documents);
  }

  /** Something has changed on the disk. */
  forget(): void {
    this.last = undefined;
  }

  /** The templates as they are now. */
  get compilation(): Compilation {
    const versions = this.documents()
      .map(({ uri, version }) => `${uri} ${version}`)
      .join('\n');
    if (!this.last || versions !== this.versions) this.last = this.check.refresh();
    this.versions = versions;
    return this.last;
  }

  /** Asks TypeScript about the templates as they are now. */
  async askTypes(): Promise<void> {
    const { compilation } = this;
    const sources = new Map([...compilation.set.files.keys()].map(({ file, source }) => [file, source]));
    this.check.lookAround();
    this.typed = { found: await this.check.types(), sources };
  }

  /** What is wrong, by file as messages name it. Types are told of files that are as they were when TypeScript looked at them. */
  diagnostics(): Map<string, TemplateDiagnostic[]> {
    const { compilation } = this;
    const isSame = (file: string) => this.typed?.sources.get(file) === compilation.sourceOf(file);
    const types = (this.typed?.found ?? []).filter(({ file }) => isSame(file));
    const found = new Map<string, TemplateDiagnostic[]>();
    for (const one of withTypes(this.check.own(), types)) found.set(one.file, [...(found.get(one.file) ?? []), one]);
    return found;
  }

  /** The name of a document in messages; `undefined` for what is no template of the project. */
  fileOf(uri: string): string | undefined {
    const path = fileURLToPath(uri);
    return [...this.compilation.set.files.keys()].find(({ file }) => resolve(file) === path)?.file;
  }

  /** A span of a file as the protocol has it: lines and columns from 0, columns in UTF-16 code units. */
  rangeOf(file: string, { start, end }: Span) {
    const { lines } = this.compilation.treeOf(file)!;
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
