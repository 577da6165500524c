/** The projects that an editor has open, each made when a file of it is first asked about. */
import { dirname, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { Project } from '../project/index.ts';
import { Workspace } from './workspace.ts';

export class Workspaces {
  private readonly tell: (error: unknown) => void;
  private readonly documents: () => readonly TextDocument[];
  /** By the folder of a file: its project, or `undefined` where it has none. */
  private readonly byFolder = new Map<string, Promise<Workspace>>();
  private readonly open = new Map<string, Workspace>();

  /**
   * @param documents all that are open, of any project
   * @param tell told what a project lacks
   */
  constructor(documents: () => readonly TextDocument[], tell: (error: unknown) => void) {
    this.documents = documents;
    this.tell = tell;
  }

  all(): Iterable<Workspace> {
    return this.open.values();
  }

  /**
   * The project around a file; `undefined` for what is no file.
   * @throws {LoomError} where there is none
   */
  async around(uri: string): Promise<Workspace | undefined> {
    if (!uri.startsWith('file:')) return undefined;
    const folder = dirname(fileURLToPath(uri));
    const found = this.byFolder.get(folder) ?? this.find(folder);
    this.byFolder.set(folder, found);
    // A project may come to be where none was.
    found.catch(() => this.byFolder.delete(folder));
    return found;
  }

  /** Looks at a project from the beginning when it is asked about again: its configuration has changed. */
  leave(workspace: Workspace): void {
    workspace.close();
    this.open.delete(workspace.project.folder);
    this.byFolder.clear();
  }

  private async find(folder: string): Promise<Workspace> {
    const project = await Project.find(folder);
    const known = this.open.get(project.folder);
    if (known) return known;
    const isOurs = ({ uri }: TextDocument) =>
      uri.startsWith('file:') && !/^\.\.(?:[\\/]|$)/.test(relative(project.folder, fileURLToPath(uri)));
    const workspace = new Workspace(project, () => this.documents().filter(isOurs), this.tell);
    this.open.set(project.folder, workspace);
    return workspace;
  }
}
