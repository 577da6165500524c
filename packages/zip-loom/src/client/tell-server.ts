/** Tells the server that a client runs, so that pages come with digests, and late. */
import { clientCookie, orderParameter } from '../protocol/index.ts';

export function tellServer(): void {
  document.cookie = `${clientCookie}=1; path=/; samesite=lax; max-age=31536000`;
  // The page was asked for as if no scripts ran; the URL need not say so any longer.
  const url = new URL(location.href);
  if (!url.searchParams.has(orderParameter)) return;
  url.searchParams.delete(orderParameter);
  history.replaceState(history.state, '', url);
}
