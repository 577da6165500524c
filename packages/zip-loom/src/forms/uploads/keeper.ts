/** Keeps the files of one loom: where, how much for each visitor, and for how long. */
import type { FilePlatform } from './platform.ts';
import type { StoredUpload, UploadInfo, UploadStore } from './store.ts';

/** A file is kept so long for the next try of its form, in milliseconds. */
export const keptFor = 3_600_000;

/** What a program that ended early has left is this old at least: longer than any request takes, or any receipt counts. */
const oldest = 2 * keptFor;
const betweenSweeps = 600_000;

/** Bytes of one visitor at a time: on their way, and kept for another try. */
const defaultQuota = 200 * 2 ** 20;

/** The same of all visitors together: a new session brings no new room. */
const defaultTotal = 2 * 2 ** 30;

/** Remembers the files that were used up, for all processes that share a store. */
export interface FileClaims {
  /** False if it is taken. @param maxAge how long it has to be remembered, in milliseconds */
  take(key: string, maxAge: number): boolean | Promise<boolean>;
  release(key: string): void | Promise<void>;
}

/** The options of a keeper. */
export interface FileKeeperOptions {
  store?: UploadStore | undefined;
  /** Bytes of one visitor. */
  quota?: number | undefined;
  /** Bytes of all visitors together. */
  total?: number | undefined;
  claims: FileClaims;
}

export class FileKeeper {
  readonly platform: FilePlatform;
  private readonly store: UploadStore;
  private readonly quota: number;
  private readonly total: number;
  private readonly claims: FileClaims;
  private usedInAll = 0;
  private readonly report: (error: unknown) => void;
  /** Bytes by visitor, and what frees them. */
  private readonly used = new Map<string, number>();
  /** Files that are kept for another try: by key, when they go and whose they are. */
  private readonly waiting = new Map<string, { until: number; visitor: string; size: number }>();
  /** Files that a request has in hand. */
  private readonly taken = new Set<string>();
  private nextSweep = 0;
  private sweeping: ReturnType<typeof setInterval> | undefined;

  /** @param report told of what goes wrong where nobody waits for it */
  constructor(
    platform: FilePlatform,
    { store, quota = defaultQuota, total = defaultTotal, claims }: FileKeeperOptions,
    report: (error: unknown) => void,
  ) {
    this.platform = platform;
    this.store = store ?? platform.defaultStore();
    this.quota = quota;
    this.total = total;
    this.claims = claims;
    this.report = report;
  }

  /** How much more a visitor may send. */
  roomFor(visitor: string): number {
    this.forgetOld();
    return Math.min(this.quota - (this.used.get(visitor) ?? 0), this.total - this.usedInAll);
  }

  /** Notes bytes of a visitor; a negative number frees them. */
  count(visitor: string, bytes: number): void {
    const now = (this.used.get(visitor) ?? 0) + bytes;
    this.usedInAll = Math.max(0, this.usedInAll + bytes);
    if (now > 0) this.used.set(visitor, now);
    else this.used.delete(visitor);
  }

  async put(content: AsyncIterable<Uint8Array>, info: UploadInfo): Promise<{ key: string; upload: StoredUpload }> {
    this.sweepInTime();
    const key = await this.store.put(content, info);
    const upload = await this.store.get(key);
    if (!upload) throw new Error('The store of uploads does not have what it has just taken.');
    this.taken.add(key);
    return { key, upload };
  }

  /**
   * A file that was kept for another try, for one request at a time, in all processes; `undefined` if it is gone, used or in use.
   */
  async take(key: string): Promise<StoredUpload | undefined> {
    if (this.taken.has(key)) return undefined;
    this.taken.add(key);
    const upload = (await this.claim(key)) ? await this.store.get(key).catch(this.report) : undefined;
    if (!upload) this.taken.delete(key);
    return upload ?? undefined;
  }

  private async claim(key: string): Promise<boolean> {
    try {
      return await this.claims.take(`file ${key}`, oldest);
    } catch (error) {
      this.report(error);
      return false;
    }
  }

  /** A file waits for the next try, which may come before the request at hand has ended. */
  keep(key: string, visitor: string, size: number): void {
    this.taken.delete(key);
    this.sweepByTime();
    void Promise.resolve(this.claims.release(`file ${key}`)).catch(this.report);
    if (!this.waiting.has(key)) this.waiting.set(key, { until: Date.now() + keptFor, visitor, size });
  }

  /** A file goes. */
  async release(key: string, visitor: string, size: number): Promise<void> {
    this.waiting.delete(key);
    await this.store.remove(key).catch(this.report);
    this.count(visitor, -size);
    // Until it is gone, a receipt for it finds it in use.
    this.taken.delete(key);
  }

  private forgetOld(): void {
    const now = Date.now();
    for (const [key, { until, visitor, size }] of this.waiting) {
      // In the order in which they came.
      if (until > now) break;
      if (this.taken.has(key)) continue;
      this.waiting.delete(key);
      this.count(visitor, -size);
      void this.store.remove(key).catch(this.report);
    }
  }

  /** Kept files go when their time has come, whether or not others are sent. */
  private sweepByTime(): void {
    if (this.sweeping) return;
    this.sweeping = setInterval(() => {
      this.forgetOld();
      this.sweepInTime();
      if (this.waiting.size > 0) return;
      clearInterval(this.sweeping);
      this.sweeping = undefined;
    }, betweenSweeps);
    // It keeps no program alive.
    (this.sweeping as { unref?: () => void }).unref?.();
  }

  private sweepInTime(): void {
    const now = Date.now();
    if (now < this.nextSweep) return;
    this.nextSweep = now + betweenSweeps;
    this.store.sweep(oldest).catch(this.report);
  }
}
