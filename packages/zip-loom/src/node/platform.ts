/** What Node has for looms. */
import type { UploadStore } from '../forms/index.ts';
import type { Platform } from '../loom/index.ts';
import { nodeCodes } from './codes.ts';
import { nodeFiles } from './file-platform.ts';
import { answerPair } from './pair.ts';
import { pathOf } from './path-of.ts';
import { uploadFolder } from './upload-folder.ts';

export const nodePlatform: Platform = { codes: nodeCodes, files: nodeFiles, pair: answerPair };

/** The option “uploads” as a store: a folder, or a store as it is. */
export function uploadsOf<Options extends { uploads?: string | URL | UploadStore }>(
  options: Options,
): Omit<Options, 'uploads'> & { uploads?: UploadStore } {
  const { uploads, ...rest } = options;
  if (uploads === undefined) return rest;
  const isPlace = typeof uploads === 'string' || uploads instanceof URL;
  return { ...rest, uploads: isPlace ? uploadFolder(pathOf(uploads)) : uploads };
}
