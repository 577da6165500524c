/** The proof: every page is rendered from its templates and compared with what it was, byte for byte. */
import {
  type AdoptedNames,
  type Adoption,
  adoptPages,
  type DocumentDifference,
  documentDifference,
} from '../../analysis/index.ts';
import { messageOf } from '../../diagnostics/index.ts';
import { createLoom } from '../../node/index.ts';

/** What is wrong is told in the result. */
const silent = { info() {}, warn() {}, error() {} };

/** Pages that do not come out the same are kept whole, so often. */
const mostRounds = 3;

/** A page that comes out otherwise. */
export type DifferingPage = DocumentDifference & { path: string };

export async function proved(
  pages: ReadonlyMap<string, string>,
  names: AdoptedNames,
  onCompared: (done: number, all: number) => void,
): Promise<{ adoption: Adoption; differing: DifferingPage[] }> {
  const keptWhole = new Set<string>();
  for (let round = 0; ; round++) {
    const adoption = adoptPages(pages, { keptWhole, names });
    const differing = await differingPages(adoption, pages, onCompared);
    const fresh = differing.filter(({ path }) => !keptWhole.has(path));
    if (fresh.length === 0 || round === mostRounds) return { adoption, differing };
    for (const { path } of fresh) keptWhole.add(path);
  }
}

async function differingPages(
  { files, elements, leftOut }: Adoption,
  pages: ReadonlyMap<string, string>,
  onCompared: (done: number, all: number) => void,
): Promise<DifferingPage[]> {
  const without = new Set(leftOut.map(({ path }) => path));
  const wanted = [...pages].filter(([path]) => !without.has(path));
  const differing: DifferingPage[] = [];
  const loom = await createLoom({ sources: files, elements, mode: 'development', logger: silent });
  for (const [at, [path, source]] of wanted.entries()) {
    try {
      const html = await loom.render(path, {}, { context: { url: new URL('http://localhost/') } });
      const difference = documentDifference(source, html);
      if (difference) differing.push({ path, ...difference });
    } catch (error) {
      differing.push({ path, line: 1, what: messageOf(error).split('\n')[0]!, isSameTree: false });
    }
    onCompared(at + 1, wanted.length);
  }
  return differing;
}
