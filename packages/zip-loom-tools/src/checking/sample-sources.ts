/** The files of sample data that TypeScript can look at. */
import { existsSync, readFileSync } from 'node:fs';
import { filesBelow, shownPath } from 'zip-loom/internal/node';
import type { SampleSource } from '../analysis/index.ts';
import { samplesEnding } from '../project/index.ts';

/** All below a folder of templates that stand beside one. */
export function sampleSources(templates: string): SampleSource[] {
  if (!existsSync(templates)) return [];
  return filesBelow(templates).flatMap((path) => {
    const template = path.replace(samplesEnding, '.html');
    if (template === path || !/\.(?:json|[cm]?ts)$/.test(path) || !existsSync(template)) return [];
    return [{ file: shownPath(path), source: readFileSync(path, 'utf8'), template: shownPath(template) }];
  });
}
