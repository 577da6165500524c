/** One browser that listens: what is still to be sent to it, at its pace. */
import type { TextSource } from '../http/index.ts';
import { channelEvents, comparePositions } from '../protocol/index.ts';
import type { BrokerEvent, Replay } from './broker.ts';
import { eventText, heartbeatText, retryText } from './event-text.ts';

export interface ConnectionLimits {
  /** Milliseconds. */
  heartbeat: number;
  /** UTF-16 code units that may wait. */
  backlog: number;
}

export class Connection implements TextSource {
  /** The channels that it listens to. */
  readonly channels: ReadonlySet<string>;
  private readonly limits: ConnectionLimits;
  private readonly onEnd: () => void;
  private waiting: string[] = [];
  private length = 0;
  /** Channels of which something waits. */
  private touched = new Set<string>();
  /** Events that came before it was known what was missed. */
  private early: Array<{ event: BrokerEvent; text: string }> | undefined = [];
  private wake: (() => void) | undefined;
  private isEnding = false;
  private hasEnded = false;

  constructor(channels: ReadonlySet<string>, limits: ConnectionLimits, onEnd: () => void) {
    this.channels = channels;
    this.limits = limits;
    this.onEnd = onEnd;
  }

  /** Begins with what was missed; what has come meanwhile follows. */
  begin({ position, events, lost }: Replay): void {
    const early = this.early ?? [];
    this.early = undefined;
    if (lost.length > 0) this.push(eventText(channelEvents.missed, position, JSON.stringify(lost)), lost);
    for (const event of events) this.push(eventText(channelEvents.update, event.id, event.text), [event.channel]);
    for (const one of early) if (comparePositions(one.event.id, position) > 0) this.send(one.event, one.text);
    // A first word, so that whoever is on the way lets it through.
    if (this.waiting.length === 0) this.push(heartbeatText, []);
  }

  /** @param text the event as it is sent: made once for all */
  send(event: BrokerEvent, text: string): void {
    if (this.early) this.early.push({ event, text });
    else this.push(text, [event.channel], event.id);
  }

  /** Something of its channels was lost. */
  miss(position: string): void {
    const channels = [...this.channels];
    this.push(eventText(channelEvents.missed, position, JSON.stringify(channels)), channels, position);
  }

  /** Ends when what waits has been sent; the browser connects again after so many milliseconds. */
  drain(retry: number): void {
    this.push(retryText(retry), []);
    this.isEnding = true;
    this.wake?.();
  }

  async next(): Promise<string | undefined> {
    if (this.waiting.length === 0 && !this.hasEnded && !this.isEnding) await this.wait();
    if (this.hasEnded) return undefined;
    if (this.waiting.length === 0) {
      if (!this.isEnding) return heartbeatText;
      this.cancel();
      return undefined;
    }
    const text = this.waiting.join('');
    this.clear();
    return text;
  }

  cancel(): void {
    if (this.hasEnded) return;
    this.hasEnded = true;
    this.clear();
    this.wake?.();
    this.onEnd();
  }

  private push(text: string, channels: readonly string[], id?: string): void {
    if (this.hasEnded || this.isEnding) return;
    for (const channel of channels) this.touched.add(channel);
    this.waiting.push(text);
    this.length += text.length;
    // Who does not read holds nobody up: what waits becomes one word.
    if (this.length > this.limits.backlog && id !== undefined) {
      const missed = [...this.touched];
      this.clear();
      const word = eventText(channelEvents.missed, id, JSON.stringify(missed));
      this.waiting.push(word);
      this.length = word.length;
      for (const channel of missed) this.touched.add(channel);
    }
    this.wake?.();
  }

  private clear(): void {
    this.waiting = [];
    this.length = 0;
    this.touched.clear();
  }

  private wait(): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, this.limits.heartbeat);
      this.wake = () => {
        clearTimeout(timer);
        this.wake = undefined;
        resolve();
      };
    });
  }
}
