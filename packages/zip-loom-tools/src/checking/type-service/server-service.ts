/** TypeScript before 7: its `tsserver` has a protocol of its own, a line of JSON for each request. */
import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { type DataCallback, StreamMessageReader } from 'vscode-languageserver/node';
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

/** Lines and columns from 1. */
interface ServerPlace {
  line: number;
  offset: number;
}

interface ServerSpan {
  file: string;
  start: ServerPlace;
  end: ServerPlace;
}

interface ServerAnswer {
  type: string;
  request_seq?: number;
  success?: boolean;
  body?: unknown;
}

export class ServerService implements TypeService {
  private readonly child: ChildProcess;
  private readonly open = new Map<number, (answer: ServerAnswer | undefined) => void>();
  private count = 0;

  /** @param anchor a file that stays open, so that its project stays loaded */
  constructor(script: string, anchor: { file: string; text: string }) {
    const args = [script, '--disableAutomaticTypingAcquisition', '--suppressDiagnosticEvents'];
    this.child = spawn(process.execPath, args, { stdio: ['pipe', 'pipe', 'ignore'] });
    for (const event of ['error', 'exit'])
      this.child.once(event, () => {
        for (const end of this.open.values()) end(undefined);
      });
    this.child.stdin!.on('error', () => {});
    const hear: DataCallback = (message) => this.answered(message as unknown as ServerAnswer);
    new StreamMessageReader(this.child.stdout!).listen(hear);
    this.tell('configure', { preferences: { includeAutomaticOptionalChainCompletions: true } });
    this.tell('open', { file: anchor.file, fileContent: anchor.text, scriptKindName: 'TS' });
  }

  async completions(place: CodePlace): Promise<TypedName[]> {
    const answer = await this.ask<{ entries: Array<{ name: string; kind: string; insertText?: string }> }>(
      'completionInfo',
      place,
    );
    return (answer?.entries ?? []).map(({ name, kind, insertText }) => ({
      name,
      kind: kindOf(kind === 'method' || kind === 'function', kind === 'string'),
      text: insertText ?? name,
    }));
  }

  async describe(place: CodePlace): Promise<TypedDescription | undefined> {
    const answer = await this.ask<{ displayString: string; documentation: string | Array<{ text: string }> }>(
      'quickinfo',
      place,
    );
    if (!answer) return undefined;
    const { documentation } = answer;
    const text = typeof documentation === 'string' ? documentation : documentation.map((one) => one.text).join('');
    return { code: answer.displayString, text };
  }

  async definitions(place: CodePlace): Promise<CodeRange[]> {
    return ((await this.ask<ServerSpan[]>('definition', place)) ?? []).map(rangeOf);
  }

  async references(place: CodePlace): Promise<CodeRange[]> {
    const answer = await this.ask<{ refs: ServerSpan[] }>('references', place);
    return (answer?.refs ?? []).map(rangeOf);
  }

  /** It watches them itself. */
  changed(): void {}

  close(): void {
    this.child.kill();
  }

  private tell(command: string, given: object): number {
    const seq = ++this.count;
    this.child.stdin!.write(`${JSON.stringify({ seq, type: 'request', command, arguments: given })}\n`);
    return seq;
  }

  /** The file has its text only while it is asked about. `undefined` where nothing is known of the place. */
  private async ask<Answer>(command: string, { file, text, offset }: CodePlace): Promise<Answer | undefined> {
    const { line, character } = codePosition(new Lines(text), offset);
    this.tell('open', { file, fileContent: text, scriptKindName: 'TS' });
    const seq = this.tell(command, { file, line: line + 1, offset: character + 1 });
    this.tell('close', { file });
    if (this.child.exitCode !== null) return undefined;
    const answer = await new Promise<ServerAnswer | undefined>((resolve) => this.open.set(seq, resolve));
    this.open.delete(seq);
    return answer?.success ? (answer.body as Answer) : undefined;
  }

  private answered({ type, request_seq: seq, ...answer }: ServerAnswer): void {
    if (type === 'response' && seq !== undefined) this.open.get(seq)?.({ type, ...answer });
  }
}

function rangeOf({ file, start, end }: ServerSpan): CodeRange {
  const place = ({ line, offset }: ServerPlace) => ({ line: line - 1, character: offset - 1 });
  return { file: file.startsWith('file:') ? fileURLToPath(file) : file, start: place(start), end: place(end) };
}
