/** The server: each request is answered from the templates as they are in the editor at that moment. */
import { fileURLToPath } from 'node:url';
import {
  CodeActionKind,
  type Connection,
  createConnection,
  DidChangeWatchedFilesNotification,
  type InitializeParams,
  type InitializeResult,
  MessageType,
  ProposedFeatures,
  ResponseError,
  ShowMessageNotification,
  type TextDocumentPositionParams,
  TextDocumentSyncKind,
  TextDocuments,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { messageOf } from 'zip-loom/internal/diagnostics';
import { isConfiguration } from 'zip-loom/internal/node';
import { tokenTypes } from '../analysis/index.ts';
import { isScript } from '../checking/index.ts';
import { actions } from './answers/actions.ts';
import type { Asked } from './answers/asked.ts';
import { completion } from './answers/completion.ts';
import { hover } from './answers/hover.ts';
import { definition, references } from './answers/navigation.ts';
import { renamed, renamedRange } from './answers/renaming.ts';
import { tokens } from './answers/tokens.ts';
import { Teller } from './teller.ts';
import type { Workspace } from './workspace.ts';
import { Workspaces } from './workspaces.ts';

/** Diagnostics follow typing after so many milliseconds. */
const pause = 60;

/** What the server answers. */
const capabilities: InitializeResult['capabilities'] = {
  textDocumentSync: TextDocumentSyncKind.Incremental,
  completionProvider: { triggerCharacters: ['<', '(', '$', '{', '"', ' ', '-', '.'] },
  hoverProvider: true,
  definitionProvider: true,
  referencesProvider: true,
  renameProvider: { prepareProvider: true },
  codeActionProvider: { codeActionKinds: [CodeActionKind.QuickFix, CodeActionKind.RefactorExtract] },
  semanticTokensProvider: { legend: { tokenTypes: [...tokenTypes], tokenModifiers: [] }, full: true },
};

interface ServedStreams {
  stdin: NodeJS.ReadableStream;
  stdout: NodeJS.WritableStream;
}

/** Serves until the editor ends it. */
export function serveLanguage({ stdin, stdout }: ServedStreams): void {
  const connection = createConnection(ProposedFeatures.all, stdin, stdout);
  const documents = new TextDocuments(TextDocument);
  const server = new Server(connection, documents);
  server.listen();
  documents.listen(connection);
  connection.listen();
}

class Server {
  private readonly connection: Connection;
  private readonly documents: TextDocuments<TextDocument>;
  private readonly workspaces: Workspaces;
  private readonly teller: Teller;
  private timer: NodeJS.Timeout | undefined;
  /** Why nothing could be said, when that was last so. */
  private lastFailure = '';

  constructor(connection: Connection, documents: TextDocuments<TextDocument>) {
    this.connection = connection;
    this.documents = documents;
    this.workspaces = new Workspaces(
      () => documents.all(),
      (error) => this.failed(error),
    );
    this.teller = new Teller(connection, documents);
  }

  listen(): void {
    const { connection, documents } = this;
    connection.onInitialize((given) => {
      this.watchFiles(given);
      return { serverInfo: { name: 'zip-loom' }, capabilities };
    });
    connection.onShutdown(() => {
      for (const workspace of this.workspaces.all()) workspace.close();
    });
    documents.onDidChangeContent(({ document }) => void this.changed(document.uri));
    documents.onDidClose(({ document }) => void this.changed(document.uri));
    documents.onDidOpen(({ document }) => void this.askTypes(document.uri));
    documents.onDidSave(({ document }) => void this.askTypes(document.uri));
    connection.onDidChangeWatchedFiles(async ({ changes }) => {
      for (const { uri } of changes) await this.leaveConfigured(uri);
      for (const { uri } of changes) await this.changed(uri);
      for (const { uri } of changes) void this.askTypes(uri);
    });
    connection.onCompletion(({ textDocument, position }) =>
      this.inTemplate(textDocument.uri, [], (workspace, document, file) =>
        completion({ workspace, document, file, offset: document.offsetAt(position) }),
      ),
    );
    connection.onHover((at) => this.about(at, null, hover));
    connection.onDefinition((at) => this.about(at, null, definition));
    connection.onReferences((at) => this.about(at, [], references));
    connection.onPrepareRename((at) => this.about(at, null, renamedRange));
    connection.onRenameRequest((at) => this.about(at, null, (asked) => renamed(asked, at.newName)));
    connection.onCodeAction(({ textDocument, range }) =>
      this.inTemplate(textDocument.uri, [], (workspace, document, file) => actions(workspace, document, file, range)),
    );
    connection.languages.semanticTokens.on(({ textDocument }) =>
      this.inTemplate(textDocument.uri, { data: [] }, tokens),
    );
  }

  /** An editor tells of files that change on the disk, where it can. */
  private watchFiles({ capabilities: { workspace } }: InitializeParams): void {
    if (!workspace?.didChangeWatchedFiles?.dynamicRegistration) return;
    this.connection.onInitialized(() => {
      const watchers = [{ globPattern: '**/*.{html,ts,mts,cts,js,mjs,cjs,json}' }];
      this.connection.client.register(DidChangeWatchedFilesNotification.type, { watchers }).catch(() => {});
    });
  }

  /** What is answered about an open document, and something else where nothing can be said. No request ends the process. */
  private async answer<Answer>(
    uri: string,
    otherwise: Answer,
    work: (workspace: Workspace, document: TextDocument, file: string | undefined) => Answer | Promise<Answer>,
  ): Promise<Answer> {
    const workspace = await this.around(uri);
    const document = this.documents.get(uri);
    try {
      return workspace && document ? await work(workspace, document, workspace.fileOf(uri)) : otherwise;
    } catch (error) {
      if (error instanceof ResponseError) throw error;
      this.failed(error);
      return otherwise;
    }
  }

  private inTemplate<Answer>(
    uri: string,
    otherwise: Answer,
    work: (workspace: Workspace, document: TextDocument, file: string) => Answer | Promise<Answer>,
  ): Promise<Answer> {
    return this.answer(uri, otherwise, (workspace, document, file) =>
      file === undefined ? otherwise : work(workspace, document, file),
    );
  }

  private about<Answer>(
    { textDocument: { uri }, position }: TextDocumentPositionParams,
    otherwise: Answer,
    work: (asked: Asked) => Answer | Promise<Answer>,
  ): Promise<Answer> {
    return this.answer(uri, otherwise, (workspace, document, file) =>
      work({ workspace, document, file, offset: document.offsetAt(position) }),
    );
  }

  /** Says, once, why nothing can be said. */
  private failed(error: unknown): void {
    const message = messageOf(error);
    // A message that waits for no answer, for an editor may have none.
    if (message !== this.lastFailure)
      void this.connection.sendNotification(ShowMessageNotification.type, { type: MessageType.Warning, message });
    this.lastFailure = message;
  }

  private async around(uri: string): Promise<Workspace | undefined> {
    try {
      return await this.workspaces.around(uri);
    } catch (error) {
      this.failed(error);
      return undefined;
    }
  }

  private async changed(uri: string): Promise<void> {
    const workspace = await this.around(uri);
    if (!workspace) return;
    const path = fileURLToPath(uri);
    workspace.forget();
    if (isScript(path)) workspace.questions?.changed([path]);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.tellAll(), pause);
  }

  /** Another configuration makes another project. */
  private async leaveConfigured(uri: string): Promise<void> {
    if (!uri.startsWith('file:') || !isConfiguration(fileURLToPath(uri))) return;
    const workspace = await this.around(uri);
    if (!workspace) return;
    this.workspaces.leave(workspace);
    this.teller.forget(workspace);
  }

  /** Asks TypeScript, which takes a while: when a file is opened or saved. */
  private async askTypes(uri: string): Promise<void> {
    const workspace = await this.around(uri);
    if (!workspace) return;
    workspace.forget();
    try {
      await workspace.askTypes();
    } catch (error) {
      // It stumbles over files of the project’s own, of which an editor tells by itself.
      this.connection.console.info(messageOf(error));
    }
    this.tellAll();
  }

  private tellAll(): void {
    for (const workspace of this.workspaces.all()) {
      try {
        this.teller.tell(workspace);
      } catch (error) {
        this.failed(error);
      }
    }
  }
}
