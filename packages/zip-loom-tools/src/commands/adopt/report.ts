/** What was made of static pages, in words. */

import { counted, kilobytes } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import type { AdoptedLayout, Adoption, NearMiss } from '../../analysis/index.ts';
import { colours } from '../../console/index.ts';
import type { DifferingPage } from './proof.ts';
import type { Site } from './site.ts';
import type { FileFate } from './update.ts';

interface Told {
  adoption: Adoption;
  differing: readonly DifferingPage[];
  site: Site;
  folder: string;
  templates: string;
  isPlan: boolean;
  /** What became of each file, where there were templates before. */
  fates: ReadonlyMap<string, FileFate> | undefined;
}

export function adoptionInWords({ adoption, differing, site, folder, templates, isPlan, fates }: Told): string {
  const before = [...site.pages.values()].reduce((sum, { bytes }) => sum + bytes, 0);
  const after = Object.values(adoption.files).reduce((sum, text) => sum + Buffer.byteLength(text), 0);
  const share = before === 0 ? 0 : Math.round((100 * (before - after)) / before);
  const leftOut = [...site.leftOut, ...adoption.leftOut];
  const read = site.pages.size - adoption.leftOut.length;
  const lines = [
    ...adoption.layouts.flatMap(layoutLines),
    ...adoption.accepted.map(
      ({ page, was, is }) => `Accepted: ${page} had “${cut(was)}” and has “${cut(is)}” as the others do.`,
    ),
    ...(adoption.accepted.length > 0 ? [''] : []),
    ...partialLines(adoption),
    ...(adoption.alone.length > 0 ? [`Pages that stand alone: ${adoption.alone.join(', ')}`, ''] : []),
    ...leftOut.map(({ path, reason }) => `Left out ${path}: ${reason}`),
    ...(leftOut.length > 0 ? [''] : []),
    `${counted(site.links, 'link')} to pages and ${counted(site.files, 'name')} of files now begin at the root.`,
    `${kilobytes(before)} in ${folder} ${isPlan ? 'would become' : 'became'} ${kilobytes(after)} of templates: ${share} % are repeated no more.`,
    ...proofLines(differing, read, adoption.accepted.length > 0),
    ...(fates ? fateLines(fates, isPlan) : []),
    isPlan ? 'Nothing was written: this is the plan.' : `Written to ${shownPath(templates)}.`,
  ];
  return lines.join('\n');
}

const fateWords: Readonly<Record<Exclude<FileFate, 'same'>, string>> = {
  updated: 'updated',
  added: 'added',
  removed: 'removed',
  kept: 'changed by you alone, and left so',
  conflict: 'changed by you and by the designer, and left so: look at both',
};

function fateLines(fates: ReadonlyMap<string, FileFate>, isPlan: boolean): string[] {
  const lines = [...fates].flatMap(([path, fate]) => (fate === 'same' ? [] : [`  ${path}  ${fateWords[fate]}`]));
  if (lines.length === 0) return ['No template has to change.'];
  return [isPlan ? 'What would become of the templates:' : 'The templates:', ...lines.sort()];
}

function proofLines(differing: readonly DifferingPage[], read: number, hasAccepted: boolean): string[] {
  const but = hasAccepted ? ' but for what you have accepted' : '';
  if (differing.length === 0)
    return [colours.bold(`All ${counted(read, 'page')} come out the same${but}, byte for byte.`)];
  const sameTree = differing.filter(({ isSameTree }) => isSameTree);
  const others = differing.length - sameTree.length;
  return [
    ...differing.map(
      ({ path, line, what, isSameTree }) =>
        `${path}:${line}  ${isSameTree ? 'the same tree in other bytes' : 'comes out otherwise'}: ${what}`,
    ),
    colours.bold(
      `${read - differing.length} of ${counted(read, 'page')} come out the same, byte for byte; ${sameTree.length} in other bytes, but the same to a browser; ${others} otherwise.`,
    ),
  ];
}

function partialLines({ files }: Adoption): string[] {
  const names = Object.keys(files).filter((path) => path.startsWith('partials/'));
  return names.length === 0
    ? []
    : [`Partials: ${names.map((path) => path.slice('partials/'.length, -'.html'.length)).join(', ')}`, ''];
}

function layoutLines({ name, pages, slots, parameters, nearMisses }: AdoptedLayout): string[] {
  return [
    `${colours.bold(`layouts/${name}.html`)}  ${counted(pages.length, 'page')}`,
    `  pages       ${pages.join(', ')}`,
    `  slots       ${slots.join(', ') || 'none'}`,
    ...(parameters.length > 0 ? [`  parameters  ${parameters.join(', ')}`] : []),
    ...nearMisses.flatMap(nearMissLines),
    '',
  ];
}

function nearMissLines({ name, usual, others }: NearMiss): string[] {
  return [
    `  nearly the same: ${name}, “${cut(usual)}”`,
    ...others.map(({ page, text }) => `    but on ${page} ${text === '' ? 'nothing' : `“${cut(text)}”`}`),
  ];
}

function cut(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length > 60 ? `${line.slice(0, 59)}…` : line;
}
