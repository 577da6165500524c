/** The options of channels. */
import {
  anyFunction,
  anyText,
  numberFrom,
  type OptionKind,
  type OptionTable,
  someText,
  wholeNumberFrom,
  withMethods,
} from '../diagnostics/index.ts';
import type { Loom, PublicationPlace } from '../loom/index.ts';
import type { Broker } from './broker.ts';

/** What channels are made with. */
export interface ChannelsOptions {
  /** Renders what is published. */
  loom: Loom;
  /** Where publications go: `memoryBroker()` for one process, `redisBroker(…)` for many. */
  broker: Broker;
  /** Where `connect` answers, from the root of the site. Default: `/channels`. */
  path?: string;
  /** Milliseconds after which something is sent although nothing has happened. Default: 20,000. */
  heartbeat?: number;
  /** UTF-16 code units that may wait for a reader who is slow; what is more becomes one word. Default: 1,000,000. */
  backlog?: number;
  /** Connections of this process; who comes then is refused for a while. Default: 20,000. */
  maximumConnections?: number;
  /** Connections of one session, or of one address for visitors without a session. Default: 30. */
  maximumPerVisitor?: number;
  /** Milliseconds after which whoever was refused may come again. Default: 5,000. */
  retryAfter?: number;
}

const loom: OptionKind = withMethods('a loom, as createLoom gives it', 'exchange', 'respond');

export const channelsTable: OptionTable<ChannelsOptions> = {
  loom,
  broker: withMethods('a broker, such as memoryBroker()', 'publish', 'listen', 'since', 'position'),
  path: {
    ...someText,
    words: 'a path that begins with “/”',
    holds: (value) => typeof value === 'string' && value.startsWith('/'),
  },
  heartbeat: numberFrom(1),
  backlog: numberFrom(1),
  maximumConnections: wholeNumberFrom(1),
  maximumPerVisitor: wholeNumberFrom(1),
  retryAfter: wholeNumberFrom(1),
};

export const connectTable = { authorize: anyFunction };

export const publishTable: OptionTable<PublicationPlace> = { locale: anyText, timeZone: anyText };
