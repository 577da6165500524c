/** An editor’s part: the real process, spoken to by the Language Server Protocol. */
import { type ChildProcess, spawn } from 'node:child_process';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import {
  createMessageConnection,
  type MessageConnection,
  StreamMessageReader,
  StreamMessageWriter,
} from 'vscode-jsonrpc/node';

export interface Range {
  start: { line: number; character: number };
  end: { line: number; character: number };
}

export interface ShownDiagnostic {
  range: Range;
  severity: number;
  code: string;
  message: string;
}

/** Marks the cursor in a text. */
export const cursor = '▮';

const pause = (milliseconds: number) => new Promise((later) => setTimeout(later, milliseconds));

export class LanguageClient {
  private readonly child: ChildProcess;
  private readonly connection: MessageConnection;
  private readonly folder: string;
  private readonly versions = new Map<string, number>();
  /** By path of the file, as it was last told. */
  readonly diagnostics = new Map<string, ShownDiagnostic[]>();
  private readonly counts = new Map<string, number>();
  /** The version of the text that was looked at. */
  private readonly told = new Map<string, number | undefined>();

  private constructor(folder: string) {
    this.folder = folder;
    this.child = spawn(
      process.execPath,
      [resolve('packages/zip-loom/dist/command/main.js'), 'language-server', '--stdio'],
      { cwd: folder },
    );
    this.connection = createMessageConnection(
      new StreamMessageReader(this.child.stdout!),
      new StreamMessageWriter(this.child.stdin!),
    );
    this.connection.onNotification(
      'textDocument/publishDiagnostics',
      ({ uri, version, diagnostics }: { uri: string; version?: number; diagnostics: ShownDiagnostic[] }) => {
        this.diagnostics.set(uri, diagnostics);
        this.told.set(uri, version);
        this.counts.set(uri, (this.counts.get(uri) ?? 0) + 1);
      },
    );
    this.connection.listen();
  }

  static async start(folder: string): Promise<LanguageClient> {
    const client = new LanguageClient(folder);
    await client.connection.sendRequest('initialize', {
      processId: process.pid,
      rootUri: pathToFileURL(folder).href,
      capabilities: {},
    });
    await client.connection.sendNotification('initialized', {});
    return client;
  }

  get isAlive(): boolean {
    return this.child.exitCode === null;
  }

  uriOf(path: string): string {
    return pathToFileURL(join(this.folder, path)).href;
  }

  /** Opens a file, or gives it another text. Where the text has a cursor, that is taken out and its position given back. */
  async write(path: string, marked: string): Promise<Range['start']> {
    const text = marked.replace(cursor, '');
    const uri = this.uriOf(path);
    const version = (this.versions.get(uri) ?? 0) + 1;
    this.versions.set(uri, version);
    if (version === 1)
      await this.connection.sendNotification('textDocument/didOpen', {
        textDocument: { uri, languageId: 'html', version, text },
      });
    else
      await this.connection.sendNotification('textDocument/didChange', {
        textDocument: { uri, version },
        contentChanges: [{ text }],
      });
    const before = marked.slice(0, Math.max(0, marked.indexOf(cursor))).split('\n');
    return { line: before.length - 1, character: before.at(-1)!.length };
  }

  /** The answer about a place of a file. */
  ask<Answer>(method: string, path: string, position: Range['start'], more: object = {}): Promise<Answer> {
    return this.connection.sendRequest(`textDocument/${method}`, {
      textDocument: { uri: this.uriOf(path) },
      position,
      ...more,
    });
  }

  actions<Answer>(path: string, range: Range): Promise<Answer> {
    return this.connection.sendRequest('textDocument/codeAction', {
      textDocument: { uri: this.uriOf(path) },
      range,
      context: { diagnostics: [] },
    });
  }

  /** What is wrong with a file as it is after a change, of it or of another one. */
  async wrongIn(path: string, change: () => Promise<unknown>): Promise<ShownDiagnostic[]> {
    const uri = this.uriOf(path);
    const before = this.counts.get(uri);
    await change();
    const isTold = () => this.counts.get(uri) !== before && this.told.get(uri) === this.versions.get(uri);
    for (let wait = 0; !isTold() && wait < 1000; wait++) await pause(20);
    return this.diagnostics.get(uri) ?? [];
  }

  /** Says that a file has changed on the disk. */
  async tellChanged(path: string): Promise<void> {
    const changes = [{ uri: this.uriOf(path), type: 2 }];
    await this.connection.sendNotification('workspace/didChangeWatchedFiles', { changes });
  }

  async stop(): Promise<void> {
    await this.connection.sendRequest('shutdown');
    const gone = new Promise((done) => this.child.once('exit', done));
    await this.connection.sendNotification('exit');
    await gone;
    this.connection.dispose();
  }
}
