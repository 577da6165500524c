/** How the client works. */
import type { Send } from './requests.ts';
import type { Texts } from './texts.ts';

/** How the client works. */
export interface StartOptions {
  /**
   * Milliseconds after which a request that changes nothing is given up, and one that changes something holds up nobody any longer.
   * Default: 30,000.
   */
  requestTimeout?: number;
  /**
   * Milliseconds for which a page with channels is looked at before the first connection is made: who only passes by costs none. What
   * was published meanwhile arrives then. Default: 4,500.
   */
  listenAfter?: number;
  /** What is said to visitors, instead of our texts. Default: English, and German by the page’s `lang`. */
  texts?: Partial<Texts>;
  /** What sends links and forms. Default: `fetch`. */
  send?: Send;
}
