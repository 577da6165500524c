/** The logger of those who have none: the console of the browser or of Node, for people to read. */
import { asError, isThrown, TemplateError } from '../../diagnostics/index.ts';

/** The part of a logger that a loom uses: details first, as pino has it. */
export interface Logger {
  /** For what is worth knowing and no fault. */
  info?(details: object, message: string): void;
  /** Told of what is wrong and goes on all the same. */
  warn(details: object, message: string): void;
  /** Told of what failed. */
  error(details: object, message: string): void;
}

/** Each error is printed once, with its frame; what else is known is in one line behind the message. */
export const consoleLogger: Logger = {
  // Under Node it goes where errors go: what a program prints may be its product.
  info: (_details, message) => console.warn(message),
  warn: (details, message) => console.warn(logLines(details, message)),
  error: (details, message) => console.error(logLines(details, message)),
};

/** What is logged, for people to read: the message with the details, and the error behind it. */
export function logLines(details: object, message: string): string {
  const { err, ...rest } = details as { err?: unknown };
  const facts = Object.entries(rest).map(([name, value]) => `${name}: ${String(value)}`);
  const line = facts.length === 0 ? message : `${message} (${facts.join(', ')})`;
  return err === undefined ? line : `${line}\n${errorInLines(err)}`;
}

/** An error of a template by its frame, and what caused it by its stack; any other by its stack. */
function errorInLines(error: unknown): string {
  if (!isThrown(error, TemplateError)) return stackOf(error);
  const { cause } = error;
  return cause === undefined ? error.format() : `${error.format()}\nCaused by ${stackOf(cause)}`;
}

function stackOf(error: unknown): string {
  const { stack, name, message } = asError(error);
  return stack ?? `${name}: ${message}`;
}
