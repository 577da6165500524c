/** The files that one request has in hand. What no handler has taken goes with it. */
import type { FileKeeper } from './keeper.ts';
import type { StoredUpload, UploadInfo } from './store.ts';
import { newUploadedFile, type UploadedFile, type UploadFacts } from './uploaded-file.ts';

export class TakenFiles {
  readonly keeper: FileKeeper;
  readonly visitor: string;
  private readonly taken = new Map<UploadedFile, string>();
  /** Those that wait for the next try, by their keys in the store. */
  private readonly kept = new Map<UploadedFile, string>();
  private hasEnded = false;

  /** @param visitor whose they are: nobody else’s room is taken */
  constructor(keeper: FileKeeper, visitor: string) {
    this.keeper = keeper;
    this.visitor = visitor;
  }

  put(content: AsyncIterable<Uint8Array>, info: UploadInfo): Promise<{ key: string; upload: StoredUpload }> {
    return this.keeper.put(content, info);
  }

  add(key: string, upload: StoredUpload, facts: UploadFacts): UploadedFile {
    const file = newUploadedFile(upload, facts, this.keeper.platform.work);
    this.taken.set(file, key);
    // Whoever hung up has ended the request already.
    if (this.hasEnded) void this.release();
    return file;
  }

  /** A file stays for the next try of its form. Returns its key. */
  keep(file: UploadedFile): string | undefined {
    const key = this.taken.get(file);
    if (key === undefined) return this.kept.get(file);
    this.taken.delete(file);
    this.kept.set(file, key);
    this.keeper.keep(key, this.visitor, file.size);
    return key;
  }

  /** Lets go of what no handler has taken. */
  end(): Promise<void> {
    this.hasEnded = true;
    return this.release();
  }

  private async release(): Promise<void> {
    const all = [...this.taken];
    this.taken.clear();
    await Promise.all(all.map(([{ size }, key]) => this.keeper.release(key, this.visitor, size)));
  }
}
