/** Events as a stream carries them (HTML §9.2.5 “Parsing an event stream”). */

/** One event: each line of its data is a field of its own, however lines end. */
export function eventText(event: string, id: string, data: string): string {
  const lines = data.split(/\r\n|\r|\n/).map((line) => `data: ${line}\n`);
  return `event: ${event}\nid: ${id}\n${lines.join('')}\n`;
}

/** Milliseconds after which a browser whose connection has ended connects again. */
export function retryText(milliseconds: number): string {
  return `retry: ${Math.round(milliseconds)}\n\n`;
}

/** What says nothing: the connection is alive. */
export const heartbeatText = ': \n\n';
