/** What a loom does besides while somebody works on a site. Looms of built templates have none of it. */
import type { RenderError } from '../../diagnostics/index.ts';
import type { IncomingRequest, Reply } from '../../http/index.ts';
import type { Bindable } from '../../kernel/index.ts';
import type { FlashMessage, Visitor } from '../../security/index.ts';
import type { Logger } from '../create/options.ts';
import type { FailurePage } from '../respond/failure-page.ts';
import type { ChannelState, ChannelWatch, Watched } from './channel-watch.ts';

export interface DevelopmentTools {
  /** What stands for a page that failed. */
  readonly failurePage: FailurePage;
  /**
   * True if a request comes by a name of this machine, so that no page of another site can read the answer.
   * @param origin of the site, if the project says it
   */
  isForDevelopers(incoming: IncomingRequest, origin: string | undefined): boolean;
  /** Whether somebody wants to see which template made what. */
  isInspected(incoming: IncomingRequest, visitor: Visitor): boolean;
  /** Of all that is rendered. */
  readonly settings?: { isInspected: true };
  /** Logs URLs of values that lead out of a site which is mounted below a path; nothing at the root. */
  noteURL(base: string, log: (error: RenderError) => void): ((url: string) => void) | undefined;
  /** Logs what a form has to show and its page does not, and says it as markup for the page. */
  formNotes(form: Bindable, page: string, logger: Logger): string;
  /** The same for a page. */
  pageNotes(page: NotedPage, logger: Logger): string;
  /** What is said of the channels of a loom. */
  channelWatch(renderer: Watched): ChannelWatch;
  /** A request has come in. */
  begun(incoming: IncomingRequest): void;
  /** The same reply; its line is logged when all of it is there. */
  logged(reply: Reply, answered: Answered, incoming: IncomingRequest, logger: Logger): Reply;
}

/** What is known of a page when it is written. */
export interface NotedPage {
  page: string;
  /** Flash messages that it does not show. */
  messages: readonly FlashMessage[];
  /** Whether it has a region with a channel. */
  usesChannels: boolean;
  /** Missing where the loom has no channels. */
  channels: ChannelState | undefined;
}

/** What was answered. */
export interface Answered {
  page?: string;
  /** The whole page, parts of it, nothing of it, changes of it as they come, the page of an error, what was refused, or the way to another URL. */
  sent: 'page' | 'parts' | 'nothing' | 'changes' | 'error' | 'refusal' | 'redirect';
  /** Names of the regions that were sent. */
  parts?: readonly string[] | undefined;
}
