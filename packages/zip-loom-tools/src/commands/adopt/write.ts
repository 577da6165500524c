/** Templates are written beside those that are there, and take their place when all are written. */
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { isConfiguration } from 'zip-loom/internal/node';
import type { Adoption } from '../../analysis/index.ts';
import { writeRecord } from './record.ts';

/**
 * @param assets the static folder, as the project’s configuration names it
 * @param accepted near misses that are as they are on most pages
 */
export function writeProject(
  out: string,
  { files, elements, names }: Adoption,
  assets: string,
  accepted: readonly string[],
): void {
  const templates = join(out, 'templates');
  const [fresh, old] = ['new', 'old'].map((state) => join(out, `.templates-${state}-${process.pid}`)) as [
    string,
    string,
  ];
  try {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(fresh, path)), { recursive: true });
      writeFileSync(join(fresh, path), text);
    }
    // Whoever ends this in between finds the old ones beside the new.
    if (existsSync(templates)) renameSync(templates, old);
    renameSync(fresh, templates);
    rmSync(old, { recursive: true, force: true });
    writeRecord(out, { names: names.used(), accepted, files });
  } finally {
    rmSync(fresh, { recursive: true, force: true });
  }
  if (!readdirSync(out).some(isConfiguration))
    writeFileSync(join(out, 'zip-loom.config.mjs'), configuration(elements, assets));
}

function configuration(elements: readonly string[], assets: string): string {
  const names = elements.length === 0 ? '' : `  elements: [${elements.map((name) => `'${name}'`).join(', ')}],\n`;
  return `/** The files that the pages name stay where the designer has them. */
export default {
  assets: new URL('${assets.split('/').map(encodeURIComponent).join('/').replaceAll("'", '%27')}/', import.meta.url),
${names}};
`;
}
