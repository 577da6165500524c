/** A file that a visitor has sent: a `File` of the platform, with what a handler needs to keep it. */
import type { StoredUpload } from './store.ts';

/** What the platform does with files. */
export interface FileWork {
  /** Keeps a file in a folder under a name of one path segment, which must be free; returns its path. */
  save(upload: StoredUpload, folder: string | URL, name: string): Promise<string>;
  /** In lower-case hexadecimal digits. */
  sha256(upload: StoredUpload): Promise<string>;
  /** A name that nobody can guess. */
  randomName(): string;
}

/** What is known of a file that has come. */
export interface UploadFacts {
  /** As its sender named it. */
  name: string;
  /** By its bytes. */
  type: string;
}

/** Makes a file that came with a form. */
export let newUploadedFile: (upload: StoredUpload, facts: UploadFacts, work: FileWork) => UploadedFile;

/** A file that came with a form: a `File` of the platform that knows what it is and can be kept. */
export class UploadedFile extends File {
  static {
    newUploadedFile = (...given) => new UploadedFile(...given);
  }

  /** The media type by the bytes, as `type`: what the sender said counts for text alone. */
  readonly detectedType: string;
  /** The sender’s name for it without folders, control characters and what systems forbid: a label to show. */
  readonly safeName: string;
  readonly #upload: StoredUpload;
  readonly #work: FileWork;

  private constructor(upload: StoredUpload, { name, type }: UploadFacts, work: FileWork) {
    const label = safeName(name);
    super(upload.blob ? [upload.blob] : [], label, { type });
    this.detectedType = type;
    this.safeName = label;
    this.#upload = upload;
    this.#work = work;
  }

  /** Where the file is until the request ends, for stores that are folders. */
  get path(): string | undefined {
    return this.#upload.path;
  }

  override get size(): number {
    return this.#upload.size;
  }

  override stream(): ReadableStream<Uint8Array<ArrayBuffer>> {
    return this.#upload.stream() as ReadableStream<Uint8Array<ArrayBuffer>>;
  }

  override async arrayBuffer(): Promise<ArrayBuffer> {
    return new Response(this.stream()).arrayBuffer();
  }

  override async text(): Promise<string> {
    return new TextDecoder().decode(await this.arrayBuffer());
  }

  /** @throws {TypeError} for a file in a store of another machine: no part of it can be had at once */
  override slice(start?: number, end?: number, contentType?: string): Blob {
    if (this.#upload.blob) return super.slice(start, end, contentType);
    throw new TypeError('This file is in a store of another machine: read it with stream(), arrayBuffer() or text().');
  }

  /** In lower-case hexadecimal digits. The file is read for it, without being held in memory. */
  sha256(): Promise<string> {
    return this.#work.sha256(this.#upload);
  }

  /**
   * Keeps the file: it is there after the request has ended.
   * @param folder made where it is missing
   * @param options.name one path segment that no file of the folder has; default: a random one, with the extension of the type
   * @returns the path of the file
   * @throws {Error} for a name that is a path or is taken, and where the file cannot be written
   * @example const path = await sent.value.photo.saveTo('photos', { name: `${boat.id}.jpg` });
   */
  async saveTo(folder: string | URL, options: { name?: string } = {}): Promise<string> {
    const name = options.name ?? `${this.#work.randomName()}${extensionOf(this.safeName, this.type)}`;
    if (!isSegment(name))
      throw new Error(
        `“${name}” cannot be the name of a file: “saveTo” takes one path segment. Give folders as the first argument.`,
      );
    return this.#work.save(this.#upload, folder, name);
  }
}

/** Whether a name stays in its folder, on every system. */
function isSegment(name: unknown): name is string {
  return typeof name === 'string' && name !== '' && !/^\.{1,2}$/.test(name) && !/[/\\\0:]/.test(name);
}

const longestName = 120;

/** What a sender’s name for a file says when it is shown: its last segment, without what means something elsewhere. */
export function safeName(name: string): string {
  const segment = name.split(/[/\\]/).at(-1) ?? '';
  const shown = segment
    .normalize('NFC')
    // Control and format characters: some turn the direction of what follows.
    .replace(/[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/gu, '')
    // Browsers write quotes so (HTML §4.10.21.8).
    .replace(/[<>:"|?*]|%22/g, '_');
  let [start, end] = [0, shown.length];
  while (start < end && isEdge(shown[start]!)) start++;
  while (end > start && isEdge(shown[end - 1]!)) end--;
  const clean = shown.slice(start, end);
  const [first = 'file', ...rest] = clean.split('.');
  // Names of devices on some systems, whatever comes after them.
  const free = /^(?:con|prn|aux|nul|com\d|lpt\d)$/i.test(first) ? [`${first}_`, ...rest].join('.') : clean;
  return shortened(free === '' ? 'file' : free);
}

/** Dots and whitespace, which some systems leave out at the ends of a name. */
function isEdge(character: string): boolean {
  return character === '.' || character.trim() === '';
}

/** Cut before its extension, between two characters. */
function shortened(name: string): string {
  const characters = [...name];
  if (characters.length <= longestName) return name.toWellFormed();
  const extension = /\.[\p{L}\p{N}]{1,10}$/u.exec(name)?.[0] ?? '';
  return (characters.slice(0, longestName - extension.length).join('') + extension).toWellFormed();
}

/** Extensions of types that are often sent. */
const extensions: Readonly<Record<string, string>> = {
  'application/json': '.json',
  'application/pdf': '.pdf',
  'application/zip': '.zip',
  'audio/mpeg': '.mp3',
  'image/avif': '.avif',
  'image/gif': '.gif',
  'image/jpeg': '.jpg',
  'image/png': '.png',
  'image/svg+xml': '.svg',
  'image/webp': '.webp',
  'text/csv': '.csv',
  'text/plain': '.txt',
  'video/mp4': '.mp4',
};

/** The extension for a saved file: that of its type, so that no server takes it for something else. */
function extensionOf(name: string, type: string): string {
  if (Object.hasOwn(extensions, type)) return extensions[type]!;
  const own = /\.[a-z\d]{1,8}$/i.exec(name)?.[0] ?? '';
  return type === 'application/octet-stream' || /\.(?:x?html?|svgz?|xml|m?js)$/i.test(own) ? '.bin' : own.toLowerCase();
}
