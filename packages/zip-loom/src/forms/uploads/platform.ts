/** What a platform has for files: the forms themselves run anywhere. */
import type { PartsReader } from './parts.ts';
import type { UploadStore } from './store.ts';
import type { FileWork } from './uploaded-file.ts';

export interface FilePlatform {
  parts: PartsReader;
  /** The media type by the first bytes of a file; `undefined` where they tell nothing. */
  detect(head: Uint8Array): Promise<string | undefined>;
  work: FileWork;
  /** Where files are kept where nothing else is said. */
  defaultStore(): UploadStore;
}
