/** The server: each request is answered from the templates as they are in the editor at that moment. */
import {
  type CodeAction,
  CodeActionKind,
  CompletionItemKind,
  type Connection,
  createConnection,
  type Diagnostic,
  DiagnosticSeverity,
  type Location,
  ProposedFeatures,
  type TextDocumentPositionParams,
  TextDocumentSyncKind,
  TextDocuments,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import {
  type Completion,
  completionsAt,
  declarationPlace,
  describeSymbol,
  type Edit,
  type EditorSymbol,
  type FilePlace,
  fixesOf,
  offersOf,
  placesOf,
  renaming,
  symbolAt,
} from '../analysis/index.ts';
import { messageOf, type TemplateDiagnostic } from '../diagnostics/index.ts';
import { uriOf, Workspace } from './workspace.ts';

/** Diagnostics follow typing after so many milliseconds. */
const pause = 60;

const kinds: Readonly<Record<Completion['kind'], CompletionItemKind>> = {
  template: CompletionItemKind.Class,
  parameter: CompletionItemKind.Property,
  clause: CompletionItemKind.Keyword,
  slot: CompletionItemKind.Field,
  name: CompletionItemKind.Variable,
  helper: CompletionItemKind.Function,
  file: CompletionItemKind.File,
};

/** Serves until the editor ends it. */
export function serveLanguage(): void {
  const connection = createConnection(ProposedFeatures.all, process.stdin, process.stdout);
  const documents = new TextDocuments(TextDocument);
  const server = new Server(connection, documents);
  server.listen();
  documents.listen(connection);
  connection.listen();
}

class Server {
  private readonly connection: Connection;
  private readonly documents: TextDocuments<TextDocument>;
  private workspace: Promise<Workspace | undefined> | undefined;
  private timer: NodeJS.Timeout | undefined;
  /** Whether TypeScript is at work, and whether it is to look again. */
  private isAsking = false;
  private isAsked = false;
  /** Why nothing could be said, when that was last so. */
  private lastFailure = '';
  /** Files of which something was told. */
  private told = new Set<string>();

  constructor(connection: Connection, documents: TextDocuments<TextDocument>) {
    this.connection = connection;
    this.documents = documents;
  }

  listen(): void {
    const { connection, documents } = this;
    connection.onInitialize(() => ({
      serverInfo: { name: 'zip-loom' },
      capabilities: {
        textDocumentSync: TextDocumentSyncKind.Incremental,
        completionProvider: { triggerCharacters: ['<', '(', '$', '{', '"', ' ', '-'] },
        hoverProvider: true,
        definitionProvider: true,
        referencesProvider: true,
        renameProvider: true,
        codeActionProvider: { codeActionKinds: [CodeActionKind.QuickFix] },
      },
    }));
    documents.onDidChangeContent(({ document }) => void this.changed(document.uri));
    documents.onDidClose(({ document }) => void this.changed(document.uri));
    documents.onDidOpen(({ document }) => void this.askTypes(document.uri));
    documents.onDidSave(({ document }) => void this.askTypes(document.uri));
    connection.onDidChangeWatchedFiles(({ changes }) => {
      for (const { uri } of changes) void this.changed(uri);
      if (changes[0]) void this.askTypes(changes[0].uri);
    });
    connection.onCompletion(({ textDocument, position }) =>
      this.answer(textDocument.uri, [], (workspace, document, file) =>
        completionsAt(workspace.compilation, file, document.getText(), document.offsetAt(position)).map((one) => ({
          label: one.label,
          kind: kinds[one.kind],
          detail: one.detail,
          textEdit: { range: { start: document.positionAt(one.start), end: position }, newText: one.text },
        })),
      ),
    );
    connection.onHover((at) =>
      this.about(at, null, (symbol, workspace, file) => {
        const { code, text } = describeSymbol(symbol);
        return {
          contents: { kind: 'markdown', value: `\`\`\`html\n${code}\n\`\`\`\n${text}` },
          range: workspace.rangeOf(file, symbol.span),
        };
      }),
    );
    connection.onDefinition((at) =>
      this.about(at, null, (symbol, workspace) => {
        const place = declarationPlace(symbol);
        return place ? locationOf(place, workspace) : null;
      }),
    );
    connection.onReferences((at) =>
      this.about(at, [], (symbol, workspace) =>
        placesOf(workspace.compilation, symbol).map((place) => locationOf(place, workspace)),
      ),
    );
    connection.onRenameRequest((at) =>
      this.about(at, null, (symbol, workspace) => {
        const change = renaming(workspace.compilation, symbol, at.newName);
        return change ? editOf(change, workspace) : null;
      }),
    );
    connection.onCodeAction(({ textDocument, range }) =>
      this.answer(textDocument.uri, [], (workspace, document, file) => {
        const [from, to] = [document.offsetAt(range.start), document.offsetAt(range.end)];
        const here = (workspace.diagnostics().get(file) ?? []).filter(
          ({ span }) => span.start <= to && span.end >= from,
        );
        const { compilation } = workspace;
        const sure = fixesOf(here, compilation).map((fix) => ({
          ...fix,
          title: titleOf(document, fix.edits),
          isSure: true,
        }));
        const others = offersOf(here, compilation).map((offer) => ({ ...offer, isSure: false }));
        return [...sure, ...others].map(
          ({ diagnostic, title, edits, isSure }): CodeAction => ({
            title,
            kind: CodeActionKind.QuickFix,
            diagnostics: [shown(diagnostic, workspace)],
            isPreferred: isSure,
            edit: editOf({ edits: edits.map((edit) => ({ ...edit, file })) }, workspace),
          }),
        );
      }),
    );
  }

  /** What an open document is answered with, and something else where nothing can be said. No request ends the process. */
  private async answer<Answer>(
    uri: string,
    otherwise: Answer,
    work: (workspace: Workspace, document: TextDocument, file: string) => Answer,
  ): Promise<Answer> {
    const workspace = await this.around(uri);
    const document = this.documents.get(uri);
    try {
      const file = workspace?.fileOf(uri);
      return workspace && document && file !== undefined ? work(workspace, document, file) : otherwise;
    } catch (error) {
      this.failed(error);
      return otherwise;
    }
  }

  /** What is answered about what stands at a place, and something else where nothing does. */
  private about<Answer>(
    { textDocument: { uri }, position }: TextDocumentPositionParams,
    otherwise: Answer,
    work: (symbol: EditorSymbol, workspace: Workspace, file: string) => Answer,
  ): Promise<Answer> {
    return this.answer(uri, otherwise, (workspace, document, file) => {
      const symbol = symbolAt(workspace.compilation, file, document.offsetAt(position));
      return symbol ? work(symbol, workspace, file) : otherwise;
    });
  }

  /** Says, once, why nothing can be said. */
  private failed(error: unknown): void {
    const message = messageOf(error);
    if (message !== this.lastFailure) this.connection.window.showErrorMessage(message);
    this.lastFailure = message;
  }

  private around(uri: string): Promise<Workspace | undefined> {
    if (!uri.startsWith('file:')) return Promise.resolve(undefined);
    this.workspace ??= Workspace.around(uri, () =>
      this.documents.all().filter((one) => one.uri.startsWith('file:')),
    ).catch((error: unknown) => {
      this.failed(error);
      // A project may come to be where none was.
      this.workspace = undefined;
      return undefined;
    });
    return this.workspace;
  }

  private async changed(uri: string): Promise<void> {
    (await this.around(uri))?.forget();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.tell(), pause);
  }

  /** Asks TypeScript, which takes a while: when a file is opened or saved. One question after another, the last one alone. */
  private async askTypes(uri: string): Promise<void> {
    const workspace = await this.around(uri);
    workspace?.forget();
    this.isAsked = true;
    if (!workspace || this.isAsking) return;
    this.isAsking = true;
    while (this.isAsked) {
      this.isAsked = false;
      try {
        await workspace.askTypes();
      } catch (error) {
        // It stumbles over files of the project’s own, of which an editor tells by itself.
        this.connection.console.info(messageOf(error));
      }
    }
    this.isAsking = false;
    await this.tell();
  }

  /** Tells of every file what is wrong with it, and of those that are open, or had something, that nothing is. */
  private async tell(): Promise<void> {
    const workspace = await this.workspace;
    if (!workspace) return;
    try {
      const found = workspace.diagnostics();
      const open = this.documents.all().flatMap(({ uri }) => workspace.fileOf(uri) ?? []);
      for (const file of new Set([...found.keys(), ...this.told, ...open])) {
        const diagnostics = (found.get(file) ?? []).map((one) => shown(one, workspace));
        const uri = uriOf(file);
        const version = this.documents.get(uri)?.version;
        void this.connection.sendDiagnostics({ uri, diagnostics, ...(version === undefined ? {} : { version }) });
      }
      this.told = new Set(found.keys());
    } catch (error) {
      this.failed(error);
    }
  }
}

function shown({ code, severity, message, hint, file, span }: TemplateDiagnostic, workspace: Workspace): Diagnostic {
  return {
    range: workspace.rangeOf(file, span),
    severity: severity === 'error' ? DiagnosticSeverity.Error : DiagnosticSeverity.Warning,
    code,
    source: 'zip-loom',
    message: hint === '' ? message : `${message} ${hint}`,
  };
}

function locationOf(place: FilePlace, workspace: Workspace): Location {
  return { uri: uriOf(place.file), range: workspace.rangeOf(place.file, place) };
}

function editOf(
  { edits, file }: { edits: ReadonlyArray<FilePlace & { text: string }>; file?: { from: string; to: string } },
  workspace: Workspace,
): WorkspaceEdit {
  const files = [...new Set(edits.map((edit) => edit.file))];
  const changes = files.map((name) => ({
    textDocument: { uri: uriOf(name), version: null },
    edits: edits
      .filter((edit) => edit.file === name)
      .map((edit) => ({ range: workspace.rangeOf(name, edit), newText: edit.text })),
  }));
  const move = file ? [{ kind: 'rename' as const, oldUri: uriOf(file.from), newUri: uriOf(file.to) }] : [];
  return { documentChanges: [...changes, ...move] };
}

function titleOf(document: TextDocument, [first]: readonly Edit[]): string {
  const before = document.getText().slice(first!.start, first!.end);
  return before === '' ? `Add “${first!.text.trim()}”` : `Change “${before}” into “${first!.text}”`;
}
