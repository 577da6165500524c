/** Development mode: errors as pages, a line of the log for each request, and pages that tell which template made what. */
import { inspectName } from '../../protocol/index.ts';
import { isLocalHost } from '../../security/index.ts';
import { ChannelWatch } from './channel-watch.ts';
import { formNotes, noteURL, pageNotes } from './development-notes.ts';
import type { DevelopmentTools } from './development-tools.ts';
import { developersPage } from './error-page.ts';
import { begun, logged } from './request-log.ts';

export const developmentTools: DevelopmentTools = {
  failurePage: developersPage,
  isForDevelopers: ({ origin: asked }, origin) => asked === origin || isLocalHost(new URL(asked).hostname),
  isInspected: ({ url, origin }, visitor) =>
    isLocalHost(new URL(origin).hostname) &&
    (visitor.cookie(inspectName) !== undefined ||
      (url.includes(inspectName) && new URL(url).searchParams.has(inspectName))),
  formNotes,
  noteURL,
  pageNotes,
  channelWatch: (renderer) => new ChannelWatch(renderer),
  begun,
  logged,
};
