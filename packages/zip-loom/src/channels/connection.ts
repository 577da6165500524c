/** One browser that listens: what is still to be sent to it, at its pace. */
import type { TextSource } from '../http/index.ts';
import { comparePositions } from '../protocol/index.ts';
import type { BrokerEvent, Replay } from './broker.ts';
import { heartbeatText, missedText, positionText, retryText, updateText } from './event-text.ts';

export interface ConnectionParts {
  /** What it listens to. */
  channels: readonly string[];
  /** Whose it is, as far as their session tells. */
  visitor: string;
  /** UTF-16 code units that may wait. */
  backlog: number;
  onEnd(connection: Connection): void;
}

export class Connection implements TextSource {
  readonly channels: readonly string[];
  readonly visitor: string;
  private readonly backlog: number;
  private readonly onEnd: (connection: Connection) => void;
  /** What waits, in order. */
  private waiting: string[] | undefined;
  private length = 0;
  /** Channels of which something waits. */
  private touched: Set<string> | undefined;
  /** Events that came before it was known what was missed. */
  private early: Array<{ event: BrokerEvent; text: string }> | undefined = [];
  /** Takes the next piece, where it is asked for and nothing waits. */
  private take: ((text: string | undefined) => void) | undefined;
  private isEnding = false;
  private hasEnded = false;

  constructor({ channels, visitor, backlog, onEnd }: ConnectionParts) {
    this.channels = channels;
    this.visitor = visitor;
    this.backlog = backlog;
    this.onEnd = onEnd;
  }

  /** Begins with what was missed; what has come meanwhile follows. */
  begin({ position, events, lost }: Replay): void {
    const early = this.early ?? [];
    this.early = undefined;
    // Without an id: whoever is cut off before all is there has to be told again.
    if (lost.length > 0) this.push(missedText(lost), lost);
    for (const event of events) this.push(updateText(event), [event.channel], event.id);
    if (lost.length > 0) this.push(positionText(position), []);
    for (const one of early) if (comparePositions(one.event.id, position) > 0) this.send(one.event, one.text);
  }

  /** A first word at once, so that whoever is on the way lets it through: when to connect again after a cut, in milliseconds. */
  greet(retry: number): void {
    this.push(retryText(retry), []);
  }

  /** Says that the connection is alive, where nothing else is about to be said. */
  beat(): void {
    if (!this.waiting) this.push(heartbeatText, []);
  }

  /** @param text the event as it is sent: made once for all */
  send(event: BrokerEvent, text: string): void {
    if (this.early) this.early.push({ event, text });
    else this.push(text, [event.channel], event.id);
  }

  /** Something of its channels was lost. */
  miss(position: string): void {
    this.push(missedText(this.channels, position), this.channels, position);
  }

  /** Ends when what waits has been sent; the browser connects again after so many milliseconds. */
  drain(retry: number): void {
    this.push(retryText(retry), []);
    this.isEnding = true;
  }

  next(): Promise<string | undefined> {
    if (this.waiting) {
      const text = this.waiting.join('');
      this.clear();
      return Promise.resolve(text);
    }
    if (this.isEnding) this.cancel();
    if (this.hasEnded) return Promise.resolve(undefined);
    return new Promise((resolve) => {
      this.take = resolve;
    });
  }

  cancel(): void {
    if (this.hasEnded) return;
    this.hasEnded = true;
    this.clear();
    this.take?.(undefined);
    this.onEnd(this);
  }

  /** @param id the position of an event: what waits up to it may become one word */
  private push(text: string, channels: readonly string[], id?: string): void {
    if (this.hasEnded || this.isEnding) return;
    if (this.take) {
      const { take } = this;
      this.take = undefined;
      take(text);
      return;
    }
    this.waiting ??= [];
    this.waiting.push(text);
    this.length += text.length;
    this.touched ??= new Set();
    for (const channel of channels) this.touched.add(channel);
    // Who does not read holds nobody up.
    if (this.length <= this.backlog || id === undefined) return;
    const missed = missedText([...this.touched], id);
    this.waiting = [missed];
    this.length = missed.length;
  }

  private clear(): void {
    this.waiting = this.touched = undefined;
    this.length = 0;
  }
}
