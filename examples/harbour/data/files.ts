/** Files of boats and comments, in a folder beside the database. */
import { openAsBlob } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { UploadedFile } from 'zip-loom/forms';

/** A file that is kept: its name in the folder, and the one that people know it by. */
export interface KeptFile {
  stored: string;
  name: string;
}

export interface Files {
  keep(file: UploadedFile): Promise<KeptFile>;
  remove(file: KeptFile | null): Promise<void>;
  /** The file as an answer, or `undefined` where it is gone. */
  answer(file: KeptFile | null | undefined): Promise<Response | undefined>;
}

/** By the extension that `saveTo` has given: that of what the bytes are. */
const types: Readonly<Record<string, string>> = {
  jpg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  pdf: 'application/pdf',
};

export function openFiles(folder: string): Files {
  return {
    async keep(file) {
      const path = await file.saveTo(folder);
      return { stored: path.slice(folder.length + 1), name: file.safeName };
    },
    async remove(file) {
      if (file) await rm(join(folder, file.stored), { force: true });
    },
    async answer(file) {
      const content = file && (await openAsBlob(join(folder, file.stored)).catch(() => undefined));
      if (!content) return undefined;
      const type = types[file.stored.split('.').at(-1) ?? ''] ?? 'application/octet-stream';
      return new Response(content, {
        headers: {
          'content-type': type,
          'content-length': String(content.size),
          'content-disposition': `inline; filename*=utf-8''${encodeURIComponent(file.name)}`,
          'x-content-type-options': 'nosniff',
          'cache-control': 'private, max-age=600',
        },
      });
    },
  };
}
