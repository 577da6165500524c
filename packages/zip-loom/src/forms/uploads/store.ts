/** Where uploaded files are kept until a handler has taken them. A store may be shared by several machines. */

/** What is known of a file before it has come. */
export interface UploadInfo {
  /** The name that its sender gave it, made safe: a label, never a path. */
  name: string;
  /** Its media type, by its first bytes. */
  type: string;
}

/** A file that a store has. */
export interface StoredUpload {
  /** Bytes. */
  size: number;
  /** Where it is in the file system, for stores that are folders. */
  path?: string;
  /** The content, where the platform reads it from the file itself. */
  blob?: Blob;
  /** The content from its start. */
  stream(): ReadableStream<Uint8Array>;
}

/**
 * Keeps files that are on their way: the folder of the system for temporary files by default. All four are called by the library alone.
 */
export interface UploadStore {
  /**
   * Keeps what comes, at the pace at which it is stored.
   * @returns a key that nobody can guess, of letters, digits, `-` and `_`
   * @throws what went wrong, with nothing left behind; what `content` throws is thrown on
   */
  put(content: AsyncIterable<Uint8Array>, info: UploadInfo): Promise<string>;
  /** `undefined` where there is no such file. */
  get(key: string): Promise<StoredUpload | undefined>;
  /** A file that is not there is removed already. */
  remove(key: string): Promise<void>;
  /**
   * Removes what a program that ended early has left.
   * @param age milliseconds; what is younger stays
   * @returns how many files were removed
   */
  sweep(age: number): Promise<number>;
}

/** True for a key as stores make it: 192 bits in base64url, so no path and no other file. */
export function isUploadKey(key: string): boolean {
  return /^[\w-]{32}$/.test(key);
}
