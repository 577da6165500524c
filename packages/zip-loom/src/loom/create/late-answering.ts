/** What answers requests, hands pages over piece by piece and publishes, loaded when it is asked for: most pages in a browser need none of it. */
import type { Answerer, ExchangeMaker } from './answering.ts';

export const lateAnswering: Answerer = {
  exchanges(needs) {
    let made: Promise<ExchangeMaker> | undefined;
    return async (request, server) => {
      made ??= import('./portable-answering.ts').then(({ portableAnswering }) => portableAnswering.exchanges(needs));
      return (await made)(request, server);
    };
  },
  source(rendering, settings) {
    const source = import('../render/page-source.ts').then(({ pageSource }) => pageSource(rendering, settings));
    // Whoever reads is told; nobody else need be.
    source.catch(() => {});
    return { next: async () => (await source).next(), cancel: () => rendering.abandon() };
  },
  async publication(renderer, change, place) {
    const { publicationText } = await import('../render/publication.ts');
    return publicationText(renderer, change, place);
  },
};
