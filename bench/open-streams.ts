/** What a server holds for each reader who has a long page but for its last part, beside a bare server that wrote the same. */
import { get } from 'node:http';
import { start } from './support/server.ts';

const readers = 500;

export async function openStreamsLine(): Promise<string> {
  const [ours, bare] = [await heldByEach('ours'), await heldByEach('bare')];
  const ratio = ours / bare;
  const verdict = ratio <= 2.5 ? '' : '  missed';
  return `an open stream of a page of 340 kB: ${(ours / 1000).toFixed(1)} kB each, bare ${(bare / 1000).toFixed(1)} kB: ${ratio.toFixed(2)} (goal: 2.50)${verdict}`;
}

async function heldByEach(side: string): Promise<number> {
  const server = await start('open', side, true);
  // What is compiled and kept for the first readers is no reader’s own.
  const first = await connectAll(server.port, 50);
  const before = (await server.state()).held;
  const more = await connectAll(server.port, readers);
  const { held } = await server.state();
  for (const reader of [...first, ...more]) reader.destroy();
  server.end();
  return (held - before) / readers;
}

/** Readers that have all of the page that there is. */
function connectAll(port: number, count: number): Promise<Array<{ destroy(): void }>> {
  const connect = () =>
    new Promise<{ destroy(): void }>((resolve, reject) => {
      const request = get({ port, host: '127.0.0.1', agent: false }, (response) => {
        response.on('error', () => {});
        response.on('data', (chunk: Buffer) => {
          if (chunk.includes('</ul>')) resolve(request);
        });
      });
      request.on('error', reject);
    });
  return Promise.all(Array.from({ length: count }, connect));
}
