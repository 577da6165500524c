/** Events as a stream carries them (HTML §9.2.5 “Parsing an event stream”). */

import { channelEvents } from '../protocol/index.ts';
import type { BrokerEvent } from './broker.ts';

/** A publication: the first line of its data is the name of its channel. */
export function updateText({ id, channel, text }: BrokerEvent): string {
  return eventText(channelEvents.update, id, `${channel}\n${text}`);
}

/**
 * @param channels those of which something was missed
 * @param position up to where; missing where others of the reader’s channels are not as far yet
 */
export function missedText(channels: readonly string[], position = ''): string {
  return eventText(channelEvents.missed, position, JSON.stringify(channels));
}

/** All up to here has been sent. A block without data is no event, but its id counts. */
export function positionText(position: string): string {
  return `id: ${position}\n\n`;
}

/** One event: each line of its data is a field of its own, however lines end. */
function eventText(event: string, id: string, data: string): string {
  const lines = data.split(/\r\n|\r|\n/).map((line) => `data: ${line}\n`);
  return `event: ${event}\n${id && `id: ${id}\n`}${lines.join('')}\n`;
}

/** Milliseconds after which a browser whose connection has ended connects again. */
export function retryText(milliseconds: number): string {
  return `retry: ${Math.round(milliseconds)}\n\n`;
}

/** What says nothing: the connection is alive. */
export const heartbeatText = ': \n\n';
