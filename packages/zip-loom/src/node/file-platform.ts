/** What Node has for files. */
import { createHash, randomBytes } from 'node:crypto';
import { constants, createWriteStream } from 'node:fs';
import { copyFile, link, mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FilePlatform, StoredUpload } from '../forms/index.ts';
import { readParts } from './multipart.ts';
import { pathOf } from './path-of.ts';
import { temporaryFolder, uploadFolder } from './upload-folder.ts';

export const nodeFiles: FilePlatform = {
  parts: readParts,
  async detect(head) {
    // Most programs take no files.
    const { fileTypeFromBuffer } = await import('file-type');
    // What it cannot read has no mark.
    return (await fileTypeFromBuffer(head).catch(() => undefined))?.mime;
  },
  work: {
    async save(upload, folder, name) {
      const path = join(pathOf(folder), name);
      await mkdir(pathOf(folder), { recursive: true });
      if (upload.path === undefined) await write(upload, path);
      else await linkOrCopy(upload.path, path);
      return path;
    },
    async sha256(upload) {
      const hash = createHash('sha256');
      for await (const piece of Readable.fromWeb(upload.stream() as never)) hash.update(piece);
      return hash.digest('hex');
    },
    randomName: () => randomBytes(12).toString('base64url'),
  },
  defaultStore: () => uploadFolder(temporaryFolder()),
};

/** Neither takes the place of a file that is there. The one in the store goes when the request ends. */
async function linkOrCopy(from: string, to: string): Promise<void> {
  try {
    await link(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') throw error;
    await copyFile(from, to, constants.COPYFILE_EXCL);
  }
}

async function write(upload: StoredUpload, path: string): Promise<void> {
  const target = createWriteStream(path, { flags: 'wx' });
  try {
    await pipeline(Readable.fromWeb(upload.stream() as never), target);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') await rm(path, { force: true });
    throw error;
  }
}
