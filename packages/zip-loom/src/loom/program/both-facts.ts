/** A page in a layout. */
import { type LoadedTemplate, mergedSources } from '../../kernel/index.ts';

/** What is known of a page and the layout that was chosen for it. */
export function bothFacts(page: LoadedTemplate['facts'], layout: LoadedTemplate['facts']): LoadedTemplate['facts'] {
  return {
    chain: `${page.chain} ${layout.chain}`,
    hasRegions: page.hasRegions || layout.hasRegions,
    hasLateContent: page.hasLateContent || layout.hasLateContent,
    usesToken: page.usesToken || layout.usesToken,
    showsFlash: page.showsFlash || layout.showsFlash,
    sources: mergedSources([page.sources, layout.sources]),
    placed: page.placed,
  };
}
