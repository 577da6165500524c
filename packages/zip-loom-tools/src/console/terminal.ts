/** The terminal of a command: its folder, what it reads, and what it writes. */
import { text } from 'node:stream/consumers';
import { stripVTControlCharacters } from 'node:util';
import type { Streams as CommandStreams } from 'zip-loom/internal/command';
import type { TemplateError } from 'zip-loom/internal/diagnostics';
import { pathOf } from 'zip-loom/internal/node';
import { hasColours } from './colours.ts';
import { errorText } from './error-text.ts';
import { type Progress, showProgress } from './progress.ts';

type Output = NodeJS.WritableStream & { isTTY?: boolean };

/** The streams that the library hands over, and what only the tools need. */
export interface Streams extends CommandStreams {
  stdout: Output;
  stderr: Output;
  /** Ends commands that run until they are ended. */
  signal?: AbortSignal;
}

/** The streams of a command, as it uses them; and how it ended. */
export class Terminal {
  readonly streams: Streams;
  /** 0 for success, 1 when something was found, 2 when the call was wrong. */
  exitCode = 0;
  private input: Promise<string> | undefined;

  constructor(streams: Streams) {
    this.streams = streams;
  }

  /** The absolute path of one that was given. */
  path(given: string): string {
    return pathOf(given);
  }

  /** Prints lines for people. */
  print(lines: string): void {
    writeLines(this.streams.stdout, lines);
  }

  /** Prints a result for programs. */
  printJSON(result: unknown): void {
    this.write(`${JSON.stringify(result, null, 2)}\n`);
  }

  /** Writes a result as it is. */
  write(result: string): void {
    this.streams.stdout.write(result);
  }

  /** Tells something beside the result. */
  tell(lines: string): void {
    writeLines(this.streams.stderr, lines);
  }

  /**
   * Tells of an error and those found with it, beside the result.
   * @param hint what to do about it here, in place of its own hint
   */
  tellError(error: TemplateError, hint?: string): void {
    this.tell(errorText(error, hint));
  }

  /** Reads standard input once, however often it is asked for. */
  readInput(): Promise<string> {
    this.input ??= text(this.streams.stdin);
    return this.input;
  }

  /** Shows what a long command is doing. */
  progress(what: string): Progress {
    return showProgress(what, this.streams.stderr);
  }

  /** Begins a terminal’s screen anew; a file or a program gets one state after another. */
  clear(): void {
    if (this.streams.stdout.isTTY) this.streams.stdout.write('\x1b[2J\x1b[H');
  }

  /** Waits until the command is ended from outside. */
  async untilEnded(): Promise<void> {
    const { signal } = this.streams;
    if (signal?.aborted) return;
    await new Promise<void>((resolve) => signal?.addEventListener('abort', () => resolve(), { once: true }));
  }
}

function writeLines(stream: Output, lines: string): void {
  stream.write(`${hasColours(stream) ? lines : stripVTControlCharacters(lines)}\n`);
}
