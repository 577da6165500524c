/** Looms and exchanges that say where an `await` is missing. */
import { needsAwait } from '../diagnostics/index.ts';
import type { Exchange, Loom } from '../loom/index.ts';

const loomMembers: Record<Exclude<keyof Loom, symbol>, true> = {
  mode: true,
  render: true,
  renderSync: true,
  stream: true,
  renderTemplate: true,
  respond: true,
  exchange: true,
  check: true,
  trusted: true,
  pages: true,
  routes: true,
  files: true,
};

const exchangeMembers: Record<Exclude<keyof Exchange, symbol>, true> = {
  context: true,
  request: true,
  read: true,
  readOneOf: true,
  readQuery: true,
  fields: true,
  prepare: true,
  verify: true,
  errorPage: true,
  rotateSession: true,
  flash: true,
  respond: true,
  page: true,
  changes: true,
  redirect: true,
  redirectToReferrer: true,
  end: true,
};

export const loomNames = Object.keys(loomMembers);

export const exchangeNames = Object.keys(exchangeMembers);

/** The same loom; in development its exchanges say that they have to be awaited. */
export function awaited(loom: Loom): Loom {
  if (loom.mode !== 'development') return loom;
  const exchange: Loom['exchange'] = (...given) =>
    needsAwait(loom.exchange(...given), 'loom.exchange(…)', exchangeNames);
  return { ...loom, exchange };
}
