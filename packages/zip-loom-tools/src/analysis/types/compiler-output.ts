/** What a TypeScript compiler prints with `--pretty false`, in any version from 5.4 on. */
import { Lines } from 'zip-loom/internal/diagnostics';

export interface CompilerMessage {
  /** As the compiler names the file; missing for what concerns the whole call. */
  file: string | undefined;
  /** Counted from 1, columns in UTF-16 code units. */
  line: number;
  column: number;
  /** Of TypeScript’s own list, such as 2322. */
  code: number;
  /** The first line says what is wrong, the others why. */
  text: string;
}

/** Reads all messages, in order. Other lines are passed over. */
export function compilerMessages(output: string): CompilerMessage[] {
  const messages: CompilerMessage[] = [];
  for (const line of output.split(/\r?\n/)) {
    const [, file, at, column, code, text] = /^(?:(.+?)\((\d+),(\d+)\): )?error TS(\d+): (.*)$/.exec(line) ?? [];
    const last = messages.at(-1);
    if (code !== undefined)
      messages.push({ file, line: Number(at ?? 0), column: Number(column ?? 0), code: Number(code), text: text ?? '' });
    else if (last && /^\s{2,}\S/.test(line)) last.text += `\n${line}`;
  }
  return messages;
}

/** The place of a message in the text of its file, as an offset. */
export function offsetIn(text: string, message: CompilerMessage): number {
  return new Lines(text).offsetOf(message);
}
