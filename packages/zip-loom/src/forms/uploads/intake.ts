/** Takes in the parts of one body: texts as they are, files into the store while they arrive. */
import type { BodyBytes } from '../../http/index.ts';
import { tokenField } from '../../protocol/index.ts';
import type { Limits } from '../limits.ts';
import type { Entries, Entry, FileEntry } from '../reading/entries.ts';
import { anyType, type FileRule, isAccepted, presumedType } from './file-types.ts';
import { withinLimits } from './limited-body.ts';
import { BodyFault, type Part, type PartContent, type Parts } from './parts.ts';
import type { TakenFiles } from './taken-files.ts';
import { safeName } from './uploaded-file.ts';

/** Who sends a body, and what is made of it. */
export interface IntakeSettings {
  /** Where files go that are kept. */
  hand: TakenFiles;
  limits: Limits;
  /** Whether a token is this visitor’s. */
  proves(token: string): boolean;
  /** Whether the request is proved already, as by a header. */
  isProved: boolean;
  /** Told of a store that does not work. */
  report(error: unknown): void;
}

/** So many bytes tell a type. */
const headLength = 4100;

export class Intake {
  /** Whether the sender is proved to be on a page of this site. */
  isProved: boolean;
  private readonly settings: IntakeSettings;
  private readonly parts: Parts;
  private readonly entries: Entry[] = [];
  private readonly files: FileEntry[] = [];
  /** A part that was looked at and belongs to whoever reads. */
  private held: Part | undefined;
  private textSize = 0;
  private fileSize = 0;
  private fileCount = 0;
  private hasToken = false;
  /** A file came before it was known who sends it. */
  private hasEarlyFile = false;
  private isAtEnd = false;
  private result: Promise<Entries> | undefined;

  constructor(body: BodyBytes, contentType: string, settings: IntakeSettings) {
    this.settings = settings;
    this.isProved = settings.isProved;
    this.parts = settings.hand.keeper.platform.parts(withinLimits(body, settings.limits), contentType, settings.limits);
  }

  /** Reads as far as the token, which comes before any file. */
  async readToken(): Promise<boolean> {
    try {
      while (!this.isProved && !this.hasToken && !this.isAtEnd && !this.held) {
        const part = await this.nextPart();
        if (part?.kind === 'file') this.held = part;
        else if (part) this.addText(part.name, part.value);
      }
    } catch (error) {
      this.result ??= Promise.resolve(this.refused(error));
    }
    return this.isProved;
  }

  /** Reads all of it, once. @param ruleOf what a field takes; `undefined` for one that takes no file */
  readAll(ruleOf: (name: string) => FileRule | undefined): Promise<Entries> {
    this.result ??= this.read(ruleOf).catch((error) => this.refused(error));
    return this.result;
  }

  /** Lets go of what was not read. */
  end(): void {
    this.parts.end();
  }

  private async read(ruleOf: (name: string) => FileRule | undefined): Promise<Entries> {
    for (;;) {
      const part = this.held ?? (await this.nextPart());
      this.held = undefined;
      if (!part && this.hasEarlyFile) return { ok: false, status: 403, reason: 'refused', entries: this.entries };
      if (!part) return { ok: true, entries: this.entries, files: this.files };
      if (part.kind === 'text') this.addText(part.name, part.value);
      else await this.addFile(part, ruleOf);
    }
  }

  private async nextPart(): Promise<Part | undefined> {
    const part = await this.parts.next();
    if (!part) this.isAtEnd = true;
    return part;
  }

  private addText(name: string, value: string): void {
    const { limits } = this.settings;
    this.textSize += name.length + value.length;
    if (this.entries.length >= limits.fields) throw new BodyFault(413, 'body-too-many', limits.fields);
    if (name.length > limits.name) throw new BodyFault(413, 'name-too-long', limits.name);
    if (this.textSize > limits.body) throw new BodyFault(413, 'body-too-large', limits.body);
    this.entries.push([name, value]);
    if (name !== tokenField || this.hasToken) return;
    // The first one counts, as in a body without files.
    this.hasToken = true;
    this.isProved ||= this.settings.proves(value);
  }

  private async addFile(part: Extract<Part, { kind: 'file' }>, ruleOf: (name: string) => FileRule | undefined) {
    const { limits } = this.settings;
    if (part.name.length > limits.name) throw new BodyFault(413, 'name-too-long', limits.name);
    const first = await part.content.next();
    // HTML §4.10.21.4: a field without a file is sent as an empty one without a name.
    if (part.label === '' && first === undefined) return;
    this.fileCount++;
    if (this.fileCount > limits.files) throw new BodyFault(413, 'too-many-files', limits.files);
    this.hasEarlyFile ||= !this.isProved;
    const rule = this.isProved ? ruleOf(part.name) : undefined;
    if (rule) this.files.push({ name: part.name, ...(await this.keepFile(part, first, rule)) });
    else {
      this.files.push({ name: part.name, label: part.label });
      if (first) this.countFileBytes(first);
    }
    await this.pass(part.content);
  }

  /** Reads over what is not kept of a file. */
  private async pass(content: PartContent): Promise<void> {
    for (let piece = await content.next(); piece; piece = await content.next()) this.countFileBytes(piece);
  }

  private countFileBytes(piece: Uint8Array): void {
    this.fileSize += piece.byteLength;
    const { allFiles } = this.settings.limits;
    if (this.fileSize > allFiles) throw new BodyFault(413, 'files-too-large', allFiles);
  }

  private async keepFile(
    { label, type, content }: Extract<Part, { kind: 'file' }>,
    first: Uint8Array | undefined,
    { accept, maximumSize }: FileRule,
  ): Promise<Omit<FileEntry, 'name'>> {
    const { hand, limits, report } = this.settings;
    const { keeper, visitor } = hand;
    const head = await headOf(first, content);
    for (const piece of head) this.countFileBytes(piece);
    const bytes = joined(head);
    const { type: presumed, text } = presumedType(bytes, type, await keeper.platform.detect(bytes));
    if (!isAccepted(presumed, accept)) return { label, fault: { code: 'file-type' } };
    const most = Math.min(limits.file, maximumSize ?? Number.POSITIVE_INFINITY);
    let size = 0;
    let fault: FileEntry['fault'];
    const take = (piece: Uint8Array) => {
      size += piece.byteLength;
      keeper.count(visitor, piece.byteLength);
      if (size > most) fault = { code: 'file-too-large', limit: most };
      else if (keeper.roomFor(visitor) < 0) fault = { code: 'file-quota' };
      if (fault) throw new Error('This file is not kept.');
      text?.add(piece);
      return piece;
    };
    const countFileBytes = (piece: Uint8Array) => this.countFileBytes(piece);
    let cut: BodyFault | undefined;
    async function* source() {
      for (const piece of head) yield take(piece);
      try {
        for (let piece = await content.next(); piece; piece = await content.next()) {
          countFileBytes(piece);
          yield take(piece);
        }
      } catch (error) {
        if (error instanceof BodyFault) cut = error;
        throw error;
      }
    }
    try {
      const { key, upload } = await hand.put(source(), { name: safeName(label), type: presumed });
      const isWhatItSays = !text || text.end();
      const own = isWhatItSays ? presumed : anyType;
      // What is not given to anybody goes when the request ends.
      const file = hand.add(key, upload, { name: label, type: own });
      return isAccepted(own, accept) ? { label, file } : { label, fault: { code: 'file-type' } };
    } catch (error) {
      keeper.count(visitor, -size);
      if (cut) throw cut;
      if (!fault) report(error);
      return { label, fault: fault ?? { code: 'file-not-kept' } };
    }
  }

  private refused(error: unknown): Entries {
    this.parts.end();
    const fault = error instanceof BodyFault ? error : undefined;
    if (!fault) this.settings.report(error);
    const { status, reason, limit } = fault ?? new BodyFault(400, 'body-unreadable');
    return { ok: false, status, reason, limit, entries: this.entries, files: this.files };
  }
}

async function headOf(first: Uint8Array | undefined, content: PartContent): Promise<Uint8Array[]> {
  const head: Uint8Array[] = [];
  let length = 0;
  for (let piece = first; piece; piece = length < headLength ? await content.next() : undefined) {
    head.push(piece);
    length += piece.byteLength;
  }
  return head;
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const [only] = pieces;
  if (only && pieces.length === 1) return only.subarray(0, headLength);
  const all = new Uint8Array(pieces.reduce((sum, { byteLength }) => sum + byteLength, 0));
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.byteLength;
  }
  return all.subarray(0, headLength);
}
