/** Static pages as templates. */
import { elementsOf, isCallName } from 'zip-loom/internal/language';
import { families } from './families.ts';
import { type Framed, framed } from './frame.ts';
import { slotted } from './holes.ts';
import { type Accepted, layoutFiles } from './layouts.ts';
import { type AdoptedNames, Names } from './names.ts';
import type { NearMiss } from './near-misses.ts';
import { Partials } from './partials.ts';
import type { Sheet } from './parts.ts';
import { alone, sheetOf } from './sheets.ts';
import { simplified } from './simplify.ts';

export interface AdoptedLayout {
  name: string;
  pages: string[];
  slots: string[];
  parameters: string[];
  nearMisses: NearMiss[];
}

export interface Adoption {
  /** Templates by their paths below the folder of templates. */
  files: Record<string, string>;
  layouts: AdoptedLayout[];
  /** Pages that share no frame with another. */
  alone: string[];
  /** Pages that could not be read, and why. */
  leftOut: Array<{ path: string; reason: string }>;
  /** Names of elements that the browser knows from scripts. */
  elements: string[];
  names: Names;
  /** Texts that gave way to what other pages have. */
  accepted: Accepted[];
}

export interface AdoptionSettings {
  /** Pages that are not to be taken apart. */
  keptWhole: ReadonlySet<string>;
  /** Those that somebody wants in place of guesses. */
  names: AdoptedNames;
  /** Near misses, by name, that are to be as they are on most pages. */
  accepted: ReadonlySet<string>;
}

/** @param pages by path without the ending: their sources, with the links and the files that they name as the templates are to have them */
export function adoptPages(
  pages: ReadonlyMap<string, string>,
  { keptWhole, names: given, accepted }: AdoptionSettings,
): Adoption {
  const names = new Names(given);
  const adoption: Adoption = { files: {}, layouts: [], alone: [], leftOut: [], elements: [], names, accepted: [] };
  const partials = new Partials(names);
  const sheets: Sheet[] = [];
  for (const [path, source] of pages) {
    const { sheet, problem } = sheetOf(path, source);
    if (problem !== undefined) adoption.leftOut.push({ path, reason: problem });
    else sheets.push(sheet);
  }
  adoption.elements = customElements(sheets);
  const [whole, others] = [true, false].map((isWhole) => sheets.filter(({ path }) => keptWhole.has(path) === isWhole));
  for (const sheet of whole!) keepWhole(adoption, sheet);
  const found = framesOf(others!);
  for (const { sheets: family, frame } of found) {
    const [only] = family;
    if (family.length === 1) {
      keepWhole(adoption, only!);
      continue;
    }
    const guess = layoutName(adoption.layouts.length, family);
    const parts = slotted(simplified(frame, family.length), family.length);
    const isAccepted = (one: string) => accepted.has(one);
    const made = layoutFiles(parts, family, { guess, names, partials, isAccepted });
    const { files, nearMisses, slots, parameters } = made;
    adoption.accepted.push(...made.accepted);
    Object.assign(adoption.files, files);
    adoption.layouts.push({
      name: names.template(guess),
      pages: family.map(({ path }) => path),
      slots,
      parameters,
      nearMisses,
    });
  }
  Object.assign(adoption.files, partials.files);
  return adoption;
}

/** The largest family first: it is the site’s. */
function framesOf(sheets: readonly Sheet[]): Framed[] {
  const found: Framed[] = [];
  let left = sheets;
  while (left.length > 0) {
    const round = families(left).map(framed);
    found.push(...round);
    // A page that fits no frame of this round is looked at again, beside the others that fit none.
    left = round.flatMap(({ others }) => others);
  }
  return found.sort((one, other) => other.sheets.length - one.sheets.length);
}

function keepWhole(adoption: Adoption, sheet: Sheet): void {
  Object.assign(adoption.files, alone(sheet));
  adoption.alone.push(sheet.path);
}

/** The first is the site’s; others are called after their first page. */
function layoutName(count: number, [first]: readonly Sheet[]): string {
  const name = first!.path.replace(/[^a-z0-9]+/gi, '-').toLowerCase();
  return count === 0 ? 'site-layout' : `${/^[a-z]/.test(name) ? '' : 'page-'}${name}-layout`;
}

/** What a template would take for calls. */
function customElements(sheets: readonly Sheet[]): string[] {
  const names = sheets.flatMap(({ nodes }) => elementsOf(nodes).map(({ name }) => name));
  return [...new Set(names)].filter(isCallName).sort();
}
