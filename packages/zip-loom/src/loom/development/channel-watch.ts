/** Sees, in development, whether channels lead from somewhere to somewhere. */
import { nearest } from '../../diagnostics/index.ts';
import { isMadeOf } from '../../kernel/index.ts';
import type { Logger } from '../create/options.ts';
import { logDiagnostic } from '../log/log.ts';
import type { Program } from '../program/program.ts';
import { answerDiagnostic } from '../respond/answer-diagnostics.ts';

/** What a page says of channels. */
export interface ChannelState {
  url: string;
  position: string;
  watch?: ChannelWatch | undefined;
}

/** Milliseconds after which a browser that shows a page with channels should be connected: more than its client waits. */
const connectedWithin = 15_000;

/** So many names of channels are remembered. */
const mostNames = 1000;

/** Whose channels are watched. */
export interface Watched {
  readonly logger: Logger;
  channelNames(): ReturnType<Program['channelNames']>;
}

export class ChannelWatch {
  private readonly renderer: Watched;
  /** When a page with channels was shown first. */
  private shownSince: number | undefined;
  private wasHeard = false;
  /** Channels that were looked for in the templates. */
  private readonly names = new Set<string>();

  constructor(renderer: Watched) {
    this.renderer = renderer;
  }

  /** A page with channels is shown. True if one was shown a while ago, and nobody has asked to be connected. */
  shown(): boolean {
    this.shownSince ??= Date.now();
    return !this.wasHeard && Date.now() - this.shownSince > connectedWithin;
  }

  /** Somebody has asked to be connected. */
  heard(): void {
    this.wasHeard = true;
  }

  /** Logs that no region shows what is published, once for each channel. */
  published(channel: string): void {
    const { names, renderer } = this;
    if (names.has(channel) || names.size > mostNames) return;
    names.add(channel);
    const known = renderer.channelNames();
    if (!known || known.some((texts) => isMadeOf(channel, texts))) return;
    const fixed = known.filter(({ length }) => length === 1).flat();
    logDiagnostic(renderer.logger, answerDiagnostic('unknown-channel', { channel, nearest: nearest(channel, fixed) }));
  }
}
