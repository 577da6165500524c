/** Cards and rows as partials, one after another, each kept when the pages still come out the same. */
import { type Adoption, nextCard } from '../../analysis/index.ts';
import { differingPages } from './proof.ts';

/** More are looked for by `repeats`. */
const mostCards = 20;

export async function withCards(
  adoption: Adoption,
  pages: ReadonlyMap<string, string>,
  onTried: (done: number, all: number) => void,
): Promise<Adoption> {
  let current = adoption;
  const tried = new Set<string>();
  let compilation: Parameters<typeof nextCard>[1]['compilation'];
  while (tried.size < mostCards) {
    const card = nextCard(current.files, { elements: current.elements, compilation, tried, names: current.names });
    if (!card) break;
    tried.add(card.key);
    onTried(tried.size, mostCards);
    const next = { ...current, files: card.files, names: card.names };
    // A layout is on every page of it; most cards are on few pages alone.
    const isInLayout = card.changed.some((path) => !path.startsWith('pages/'));
    const affected = new Map([...pages].filter(([path]) => isInLayout || card.changed.includes(`pages/${path}.html`)));
    const isKept = (await differingPages(next, affected)).length === 0;
    if (isKept) current = next;
    compilation = isKept ? card.after : card.before;
  }
  return current;
}
