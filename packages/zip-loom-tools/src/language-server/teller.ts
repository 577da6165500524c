/** Tells an editor what is wrong with the files of a project. */
import type { Connection, TextDocuments } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { diagnosticOf, uriOf } from './shapes.ts';
import type { Workspace } from './workspace.ts';

export class Teller {
  private readonly connection: Connection;
  private readonly documents: TextDocuments<TextDocument>;
  /** Files of which something was told. */
  private readonly told = new Map<Workspace, ReadonlySet<string>>();

  constructor(connection: Connection, documents: TextDocuments<TextDocument>) {
    this.connection = connection;
    this.documents = documents;
  }

  /** Tells of every file what is wrong with it, and of those that are open, or had something, that nothing is. */
  tell(workspace: Workspace): void {
    const found = workspace.diagnostics();
    const open = workspace.openTemplates();
    for (const file of new Set([...found.keys(), ...(this.told.get(workspace) ?? []), ...open])) {
      const diagnostics = (found.get(file) ?? []).map((one) => diagnosticOf(one, workspace));
      const uri = uriOf(file);
      const version = this.documents.get(uri)?.version;
      void this.connection.sendDiagnostics({ uri, diagnostics, ...(version === undefined ? {} : { version }) });
    }
    this.told.set(workspace, new Set(found.keys()));
  }

  /** A project is looked at no more. */
  forget(workspace: Workspace): void {
    for (const file of this.told.get(workspace) ?? [])
      void this.connection.sendDiagnostics({ uri: uriOf(file), diagnostics: [] });
    this.told.delete(workspace);
  }
}
