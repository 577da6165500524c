/** The proof: every page is rendered from its templates and compared with what it was, byte for byte. */

import { messageOf } from 'zip-loom/internal/diagnostics';
import { createLoom } from 'zip-loom/internal/node';
import {
  type Accepted,
  type Adoption,
  type AdoptionSettings,
  adoptPages,
  type DocumentDifference,
  documentDifference,
} from '../../analysis/index.ts';

/** Pages that do not come out the same are kept whole, so often. */
const mostRounds = 3;

/** A page that comes out otherwise. */
export type DifferingPage = DocumentDifference & { path: string };

export async function proved(
  pages: ReadonlyMap<string, string>,
  { names, accepted }: Pick<AdoptionSettings, 'names' | 'accepted'>,
  onCompared: (done: number, all: number) => void,
): Promise<{ adoption: Adoption; differing: DifferingPage[] }> {
  const keptWhole = new Set<string>();
  for (let round = 0; ; round++) {
    const adoption = adoptPages(pages, { keptWhole, names, accepted });
    const differing = await differingPages(adoption, pages, onCompared);
    const fresh = differing.filter(({ path }) => !keptWhole.has(path));
    if (fresh.length === 0 || round === mostRounds) return { adoption, differing };
    for (const { path } of fresh) keptWhole.add(path);
  }
}

export async function differingPages(
  { files, elements, leftOut, accepted }: Adoption,
  pages: ReadonlyMap<string, string>,
  onCompared: (done: number, all: number) => void = () => {},
): Promise<DifferingPage[]> {
  const without = new Set(leftOut.map(({ path }) => path));
  const wanted = [...pages].filter(([path]) => !without.has(path));
  const differing: DifferingPage[] = [];
  const loom = await createLoom({ sources: files, elements, mode: 'development', logger: false });
  for (const [at, [path, source]] of wanted.entries()) {
    try {
      const html = await loom.render(path, {}, { context: { url: new URL('http://localhost/') } });
      const changes = accepted.filter(({ page }) => page === path);
      const difference = documentDifference(withAccepted(source, html, changes), html);
      if (difference) differing.push({ path, ...difference });
    } catch (error) {
      differing.push({ path, line: 1, what: messageOf(error).split('\n')[0]!, isSameTree: false });
    }
    onCompared(at + 1, wanted.length);
  }
  return differing;
}

/** A page with the texts that were accepted, where it differs from what is rendered. */
function withAccepted(source: string, html: string, changes: readonly Accepted[]): string {
  let text = source;
  for (const _ of changes) {
    let offset = 0;
    while (offset < text.length && text[offset] === html[offset]) offset += 1;
    if (offset === text.length) break;
    for (const { was, is } of changes) {
      const at = text.lastIndexOf(was, offset);
      if (at === -1 || at + was.length < offset || !html.startsWith(is, at)) continue;
      text = text.slice(0, at) + is + text.slice(at + was.length);
      break;
    }
  }
  return text;
}
