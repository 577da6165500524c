/** TypeScript 7 and later: its compiler speaks the Language Server Protocol. */
import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath, pathToFileURL } from 'node:url';
import {
  type CompletionItem,
  CompletionItemKind,
  type CompletionList,
  createMessageConnection,
  type Hover,
  type Location,
  type MarkedString,
  type MarkupContent,
  type MessageConnection,
  StreamMessageReader,
  StreamMessageWriter,
} from 'vscode-languageserver/node';
import { Lines } from 'zip-loom/internal/diagnostics';
import {
  type CodePlace,
  type CodeRange,
  codePosition,
  kindOf,
  type TypedDescription,
  type TypedName,
  type TypeService,
} from './service.ts';

export class ProtocolService implements TypeService {
  private readonly child: ChildProcess;
  private readonly connection: MessageConnection;
  private readonly ready: Promise<void>;
  private readonly gone: Promise<never>;

  /** @param anchor a file that stays open, so that its project stays loaded */
  constructor(script: string, anchor: { file: string; text: string }) {
    this.child = spawn(process.execPath, [script, '--lsp', '--stdio'], { stdio: ['pipe', 'pipe', 'ignore'] });
    this.gone = new Promise((_, reject) => {
      for (const event of ['error', 'exit']) this.child.once(event, () => reject(new Error('TypeScript has ended.')));
    });
    this.gone.catch(() => {});
    this.child.stdin!.on('error', () => {});
    this.connection = createMessageConnection(
      new StreamMessageReader(this.child.stdout!),
      new StreamMessageWriter(this.child.stdin!),
    );
    // It wants to know settings, of which there are none, and to be told of files, which it is.
    this.connection.onRequest((_method, given) => (asksForSettings(given) ? given.items.map(() => null) : null));
    this.connection.onError(() => {});
    this.connection.listen();
    this.ready = this.begin(anchor);
    this.ready.catch(() => {});
  }

  async completions(place: CodePlace): Promise<TypedName[]> {
    const answer = await this.ask<CompletionItem[] | CompletionList | null>('completion', place, {
      context: { triggerKind: 1 },
    });
    const items = Array.isArray(answer) ? answer : (answer?.items ?? []);
    return items.map(({ label, kind, textEdit, insertText }) => ({
      name: label,
      kind: kindOf(
        kind === CompletionItemKind.Method || kind === CompletionItemKind.Function,
        kind === CompletionItemKind.Constant || kind === CompletionItemKind.Text,
      ),
      text: textEdit?.newText ?? insertText ?? label,
    }));
  }

  async describe(place: CodePlace): Promise<TypedDescription | undefined> {
    const hover = await this.ask<Hover | null>('hover', place);
    return hover ? described(hover.contents) : undefined;
  }

  definitions(place: CodePlace): Promise<CodeRange[]> {
    return this.ranges('definition', place);
  }

  references(place: CodePlace): Promise<CodeRange[]> {
    return this.ranges('references', place, { context: { includeDeclaration: true } });
  }

  changed(files: readonly string[]): void {
    const changes = files.map((file) => ({ uri: pathToFileURL(file).href, type: 2 }));
    void this.tell('workspace/didChangeWatchedFiles', { changes });
  }

  close(): void {
    this.connection.dispose();
    // The compiler may be a program below this one, which ends when nobody speaks to it.
    this.child.stdin!.end();
    this.child.kill();
  }

  private async begin(anchor: { file: string; text: string }): Promise<void> {
    const capabilities = { textDocument: { hover: { contentFormat: ['markdown'] } } };
    const given = { processId: process.pid, rootUri: null, capabilities };
    await Promise.race([this.connection.sendRequest('initialize', given), this.gone]);
    await this.connection.sendNotification('initialized', {});
    await this.connection.sendNotification('textDocument/didOpen', { textDocument: document(anchor) });
  }

  private async tell(method: string, given: object): Promise<void> {
    await this.ready.then(() => this.connection.sendNotification(method, given)).catch(() => {});
  }

  /** The file has its text only while it is asked about. */
  private async ask<Answer>(method: string, place: CodePlace, more: object = {}): Promise<Answer> {
    await this.ready;
    const { uri } = document(place);
    const position = codePosition(new Lines(place.text), place.offset);
    await this.connection.sendNotification('textDocument/didOpen', { textDocument: document(place) });
    const answer = this.connection.sendRequest(`textDocument/${method}`, {
      textDocument: { uri },
      position,
      ...more,
    }) as Promise<Answer>;
    answer.catch(() => {});
    await this.connection.sendNotification('textDocument/didClose', { textDocument: { uri } });
    return Promise.race([answer, this.gone]);
  }

  private async ranges(method: string, place: CodePlace, more?: object): Promise<CodeRange[]> {
    const answer = await this.ask<Location | Location[] | null>(method, place, more);
    const locations = answer === null ? [] : [answer].flat();
    return locations
      .filter(({ uri }) => uri.startsWith('file:'))
      .map(({ uri, range }) => ({ file: fileURLToPath(uri), ...range }));
  }
}

function document({ file, text }: { file: string; text: string }) {
  return { uri: pathToFileURL(file).href, languageId: 'typescript', version: 1, text };
}

function asksForSettings(given: unknown): given is { items: unknown[] } {
  return Array.isArray((given as { items?: unknown } | undefined)?.items);
}

/** The first block is code; what is below it are the comments. */
function described(contents: MarkupContent | MarkedString | MarkedString[]): TypedDescription {
  const text = [contents]
    .flat()
    .map((one) => (typeof one === 'string' ? one : one.value))
    .join('\n');
  const [, code, rest] = /^\s*```\w*\n(.*?)\n```(.*)$/s.exec(text) ?? [];
  return code === undefined ? { code: text, text: '' } : { code, text: rest!.trim() };
}
