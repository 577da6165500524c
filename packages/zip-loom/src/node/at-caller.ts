/** Errors of what a project configures: their stack is the message and the project’s own lines. */
import { isThrown, LoomError } from '../diagnostics/index.ts';

/** The folder of this library, as stacks name it. */
const ownFolder = new URL('..', import.meta.url).href;

/** The same error, without the lines of this library and of Node. */
export function atCaller(error: unknown): unknown {
  if (!isThrown(error, LoomError)) return error;
  const frames = (error.stack ?? '').split('\n').filter((line) => /^ {4}at /.test(line));
  const own = frames.filter((line) => !line.includes(ownFolder) && !/[( ]node:/.test(line));
  error.stack = [`${error.name}: ${error.message}`, ...own].join('\n');
  return error;
}
