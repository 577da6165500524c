/** One-time messages: from the handler that redirects to the page that shows them. */
import { randomText } from './random-text.ts';
import { localURL } from './redirects.ts';
import type { Sealer } from './sealing.ts';

export interface FlashMessage {
  /** Unique, so that the message is shown once. */
  id: string;
  text: string;
  /** `alert` interrupts a screen reader; `status` waits. */
  role: 'status' | 'alert';
  /** What can be done about it. */
  action?: Required<FlashAction>;
}

/** A button beside a message, as one that undoes what was done; with the method `get` a link. */
export interface FlashAction {
  label: string;
  /** On this site. */
  url: string;
  /** Default: `post`. */
  method?: 'get' | 'post' | 'put' | 'patch' | 'delete';
}

/** A message as handlers write it. */
export type Flash = string | { text: string; role?: 'status' | 'alert'; action?: FlashAction };

/** How long a message waits for its page, in seconds. */
export const flashLife = 300;

/** Browsers keep cookies of up to 4,096 bytes (RFC 6265bis §5.6); the seal and the name need some of them. */
const longestPayload = 2800;

/**
 * A message with its own id.
 * @param base gives the URL of the request
 * @param refused called with the URL of an action that leads to another site: the message comes without it
 */
export function flashMessage(flash: Flash, base: () => URL, refused: (url: string) => void): FlashMessage {
  const { text, role = 'status', action } = typeof flash === 'string' ? { text: flash, action: undefined } : flash;
  const message: FlashMessage = { id: randomText(6), text, role };
  if (!action) return message;
  const url = localURL(action.url, base);
  if (url !== undefined) return { ...message, action: { method: 'post', ...action, url } };
  refused(action.url);
  return message;
}

/** The cookie’s value: messages, their end, and the visitor whose they are. The oldest make room when there are too many. */
export function sealFlash(sealer: Sealer, session: string, messages: readonly FlashMessage[], now: number): string {
  let kept = [...messages];
  const text = () => JSON.stringify([session, now + flashLife * 1000, kept]);
  while (kept.length > 1 && encodedLength(text()) > longestPayload) kept = kept.slice(1);
  if (kept[0] && encodedLength(text()) > longestPayload)
    kept = [{ ...kept[0], text: `${[...kept[0].text].slice(0, 600).join('')}…` }];
  if (kept[0]?.action && encodedLength(text()) > longestPayload) {
    const { id, text: shown, role } = kept[0];
    kept = [{ id, text: shown, role }];
  }
  return sealer.seal('flash', text());
}

/** The messages of a cookie that is this visitor’s and has not expired; none for anything else. */
export function openFlash(sealer: Sealer, session: string, cookie: string, now: number): FlashMessage[] {
  const text = sealer.open('flash', cookie);
  if (text === undefined) return [];
  const [owner, end, messages] = JSON.parse(text) as [string, number, FlashMessage[]];
  return owner === session && end > now ? messages : [];
}

function encodedLength(text: string): number {
  return new TextEncoder().encode(text).length;
}
