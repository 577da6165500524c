/** Errors of the file system in words: what could not be done, where, and what to do. */
import { LoomError } from '../diagnostics/index.ts';
import { shownPath } from './module-paths.ts';

/** An error that Node throws when a system call fails. */
interface SystemError extends Error {
  code: string;
  syscall: string;
  path?: string;
  dest?: string;
}

const reasons: Readonly<Record<string, readonly [reason: string, hint: string]>> = {
  EACCES: ['you have no permission', 'Change its permissions or its owner, as in: chmod u+rw PATH'],
  EPERM: ['you have no permission', 'Change its permissions or its owner, as in: chmod u+rw PATH'],
  EROFS: ['its file system is read-only', 'Choose another folder, or mount it for writing.'],
  ENOSPC: ['the disk is full', 'Make room, then run the command again.'],
  EDQUOT: ['your quota is used up', 'Make room, then run the command again.'],
  ENOENT: ['it does not exist', 'Check the path.'],
  ENOTDIR: ['a part of its path is a file, not a folder', 'Rename that file, or choose another path.'],
  EISDIR: ['it is a folder, not a file', 'Rename the folder, or choose another path.'],
  EEXIST: ['it exists already', 'Remove it, or choose another path.'],
  ENOTEMPTY: ['it is a folder with files in it', 'Empty it, or choose another path.'],
  EMFILE: ['too many files are open', 'Close other programs, or raise the limit: ulimit -n 4096'],
  ENFILE: ['too many files are open', 'Close other programs.'],
  ELOOP: ['its links lead in a circle', 'Remove the link.'],
  ENAMETOOLONG: ['its name is too long', 'Choose a shorter one.'],
  EBUSY: ['another program uses it', 'Close that program, then run the command again.'],
};

/** Calls that read; all others write. */
const reading = /^(?:scandir|stat|lstat|read|readlink|realpath|opendir|access)$/;

/** What is printed of an error that ended a command, or a look: a message where we know what it is, a stack where we do not. */
export function failureText(error: unknown): string {
  if (error instanceof LoomError) return error.message;
  return systemErrorText(error) ?? (error instanceof Error ? (error.stack ?? error.message) : String(error));
}

/** The message for an error of the file system; `undefined` for any other. */
export function systemErrorText(error: unknown): string | undefined {
  if (!isSystemError(error)) return undefined;
  const known = reasons[error.code];
  const path = error.dest ?? error.path;
  if (!known || path === undefined) return undefined;
  const [reason, hint] = known;
  // Opening a file that does not exist fails only where it is to be read.
  const isReading = reading.test(error.syscall) || (error.syscall === 'open' && error.code === 'ENOENT');
  const shown = shownPath(path);
  return `${shown} cannot be ${isReading ? 'read' : 'written'}: ${reason}. ${hint.replace('PATH', shown)}`;
}

function isSystemError(error: unknown): error is SystemError {
  return error instanceof Error && 'syscall' in error && 'code' in error && typeof error.code === 'string';
}
