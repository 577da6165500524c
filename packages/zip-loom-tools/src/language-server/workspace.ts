/** A project that an editor has open: its templates as they are in the editor, and what is wrong with them. */
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Range } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import type { Compilation } from 'zip-loom/internal/compiler';
import { Lines, type Span, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { pathOf } from 'zip-loom/internal/node';
import { codePosition, ProjectCheck, scriptsBelow, type TypeQuestions, withTypes } from '../checking/index.ts';
import type { Project } from '../project/index.ts';

export class Workspace {
  readonly project: Project;
  private readonly check: ProjectCheck;
  private readonly documents: () => readonly TextDocument[];
  /** The versions of the documents that were looked at. */
  private versions = '';
  private last: Compilation | undefined;
  /** TypeScript is at work, and whether it is to look again. */
  private asking: Promise<void> | undefined;
  private isAsked = false;
  /** What TypeScript has found, and the texts of the files that it looked at. */
  private typed: { found: readonly TemplateDiagnostic[]; sources: ReadonlyMap<string, string> } | undefined;

  /**
   * @param documents those of the project that are open
   * @param onUnreadableAssets told why assets cannot be read, as before they are built
   */
  constructor(
    project: Project,
    documents: () => readonly TextDocument[],
    onUnreadableAssets: (error: unknown) => void,
  ) {
    this.project = project;
    this.documents = documents;
    this.check = new ProjectCheck(project, { types: true, open: () => this.open(), onUnreadableAssets });
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

  /** The templates as they would be if a file, by its name in messages, had another text. */
  supposing(file: string, text: string): Compilation {
    return this.check.supposing(pathOf(file), text);
  }

  /** What TypeScript knows of places. */
  get questions(): TypeQuestions | undefined {
    return this.check.questions;
  }

  /** Asks TypeScript about the templates as they are now: one question after another, the last one alone. */
  askTypes(): Promise<void> {
    this.isAsked = true;
    this.asking ??= this.askWhileAsked().finally(() => {
      this.asking = undefined;
    });
    return this.asking;
  }

  private async askWhileAsked(): Promise<void> {
    while (this.isAsked) {
      this.isAsked = false;
      const { compilation } = this;
      const sources = new Map([...compilation.set.files.keys()].map(({ file, source }) => [file, source]));
      this.check.lookAround();
      this.typed = { found: await this.check.types(), sources };
    }
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
    return [...this.compilation.set.files.keys()].find(({ file }) => pathOf(file) === path)?.file;
  }

  /** The templates that are open, as messages name them. */
  openTemplates(): string[] {
    return this.documents().flatMap(({ uri }) => this.fileOf(uri) ?? []);
  }

  /** The project’s own scripts, as they are in the editor, by their paths. */
  scripts(): Map<string, string> {
    const open = this.open();
    return new Map(
      scriptsBelow(this.project.folder).map((file) => [file, open.get(file) ?? readFileSync(file, 'utf8')]),
    );
  }

  /**
   * A span of a template, by its name in messages, or of a script, by its path: lines and columns from 0, columns in UTF-16 code
   * units.
   */
  rangeOf(file: string, { start, end }: Span): Range {
    const lines =
      this.compilation.treeOf(file)?.lines ?? new Lines(this.open().get(file) ?? readFileSync(file, 'utf8'));
    return { start: codePosition(lines, start), end: codePosition(lines, end) };
  }

  /** The project is not looked at any more. */
  close(): void {
    this.questions?.close();
  }

  private open(): Map<string, string> {
    return new Map(this.documents().map((one) => [fileURLToPath(one.uri), one.getText()]));
  }
}
