/** Commands that were called wrongly, in one list and one voice. */

/** Ends the command with exit code 2. */
export class CallError extends Error {
  readonly code: string;
  readonly hint: string;

  constructor(code: string, message: string, hint: string) {
    super(`${message} ${hint}`);
    this.code = code;
    this.hint = hint;
  }
}

export const callErrors = {
  unreadableData: (file: string, reason: string): CallError =>
    new CallError(
      'data-file',
      `The data file ${file} cannot be read: ${reason}.`,
      'Check its path, or use - for standard input.',
    ),
  dataNotJSON: (file: string, reason: string): CallError =>
    new CallError(
      'data-not-json',
      `The data in ${file} is not JSON: ${reason}.`,
      'Give an object of names and values, as {"berths": []}.',
    ),
  dataNotAnObject: (): CallError =>
    new CallError(
      'data-not-an-object',
      'The data of a page is a JSON object.',
      'Give names and values, as {"berths": []}.',
    ),
  notATemplate: (file: string): CallError =>
    new CallError(
      'not-a-template',
      `${file} is not a template of this project.`,
      'Give the path of a file below the templates’ folder.',
    ),
  folderInUse: (folder: string): CallError =>
    new CallError('folder-in-use', `${folder} holds other files.`, 'Choose an empty folder with --out.'),
};
