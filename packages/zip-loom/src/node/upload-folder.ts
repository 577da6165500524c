/** Uploaded files in a folder that only the user of this process can look into. */
import { randomBytes } from 'node:crypto';
import { createReadStream, openAsBlob } from 'node:fs';
import { type FileHandle, lstat, mkdir, open, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { LoomError } from '../diagnostics/index.ts';
import { isUploadKey, type StoredUpload, type UploadStore } from '../forms/index.ts';
import { nodeDiagnostic } from './diagnostics.ts';

/** The folder of the system for temporary files, for this user. */
export function temporaryFolder(): string {
  return join(tmpdir(), `zip-loom-uploads-${userInfo().uid}`);
}

/**
 * A store in a folder, which is made when the first file comes. The option `uploads` of a loom takes the path alone.
 * @param folder that only the user of this process can look into
 * @example createLoom({ templates: 'templates', uploads: uploadFolder('uploads') })
 */
export function uploadFolder(folder: string): UploadStore {
  let prepared: Promise<void> | undefined;
  const prepare = () => {
    prepared ??= prepareFolder(folder).catch((error) => {
      prepared = undefined;
      throw error;
    });
    return prepared;
  };
  const pathOf = (key: string) => (isUploadKey(key) ? join(folder, key) : undefined);
  return {
    async put(content) {
      await prepare();
      const key = randomBytes(24).toString('base64url');
      const path = join(folder, key);
      // Made anew, and never through a link (`O_EXCL`).
      const file = await open(path, 'wx', 0o600);
      try {
        await writeAll(file, content);
        await file.close();
      } catch (error) {
        await file.close().catch(() => {});
        await rm(path, { force: true });
        throw error;
      }
      return key;
    },
    async get(key): Promise<StoredUpload | undefined> {
      const path = pathOf(key);
      const found = path === undefined ? undefined : await lstat(path).catch(() => undefined);
      if (path === undefined || !found?.isFile()) return undefined;
      return {
        size: found.size,
        path,
        blob: await openAsBlob(path),
        stream: () => Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>,
      };
    },
    async remove(key) {
      const path = pathOf(key);
      if (path !== undefined) await rm(path, { force: true });
    },
    async sweep(age) {
      const names = await readdir(folder).catch(() => []);
      const oldest = Date.now() - age;
      let removed = 0;
      for (const name of names.filter(isUploadKey)) {
        const path = join(folder, name);
        const found = await stat(path).catch(() => undefined);
        if (!found?.isFile() || found.mtimeMs > oldest) continue;
        await rm(path, { force: true });
        removed++;
      }
      return removed;
    },
  };
}

/** So many bytes wait for the disk while more are read. */
const mostWaiting = 2 ** 18;

/** Reads on while the disk is at work. */
async function writeAll(file: FileHandle, content: AsyncIterable<Uint8Array>): Promise<void> {
  let waiting: Uint8Array[] = [];
  let size = 0;
  let writing: Promise<void> | undefined;
  let fault: unknown;
  const write = async () => {
    while (waiting.length > 0) {
      const pieces = waiting;
      waiting = [];
      size = 0;
      await writePieces(file, pieces);
    }
  };
  const begin = () => {
    writing ??= write()
      .catch((error) => {
        fault = error;
      })
      .finally(() => {
        writing = undefined;
      });
  };
  try {
    for await (const piece of content) {
      waiting.push(piece);
      size += piece.byteLength;
      begin();
      if (size >= mostWaiting) await writing;
      if (fault !== undefined) throw fault;
    }
  } finally {
    // The file is closed after the last of it.
    await writing;
  }
  if (fault !== undefined) throw fault;
}

/** A disk may take less than it was given. */
async function writePieces(file: FileHandle, pieces: Uint8Array[]): Promise<void> {
  const total = pieces.reduce((sum, { byteLength }) => sum + byteLength, 0);
  const { bytesWritten } = await file.writev(pieces);
  if (bytesWritten === total) return;
  const rest = Buffer.concat(pieces).subarray(bytesWritten);
  for (let at = 0; at < rest.length; ) at += (await file.write(rest, at)).bytesWritten;
}

/** @throws {LoomError} for a folder that others can look into, or that is a link */
async function prepareFolder(folder: string): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const found = await lstat(folder);
  // Windows has neither users nor permissions of this kind.
  const isOurs = process.getuid === undefined || (found.uid === process.getuid() && (found.mode & 0o077) === 0);
  if (!found.isDirectory() || !isOurs) throw new LoomError(nodeDiagnostic('unsafe-upload-folder', { folder }));
}
