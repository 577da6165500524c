/** The folder and the streams of a command. */
export interface Streams {
  /** The folder that relative paths begin at. */
  cwd: string;
  stdin: NodeJS.ReadableStream;
  stdout: NodeJS.WritableStream;
  stderr: NodeJS.WritableStream;
}
