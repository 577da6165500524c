/** What answers requests, loaded with the first one: pages in a browser have none, and need neither forms nor codes. */
import type { Answerer, ExchangeMaker } from './answering.ts';

export const lateAnswering: Answerer = (needs) => {
  let made: Promise<ExchangeMaker> | undefined;
  return async (request, server) => {
    made ??= import('./portable-answering.ts').then(({ portableAnswering }) => portableAnswering(needs));
    return (await made)(request, server);
  };
};
