/** Many who listen: `node channel-readers.js PORT COUNT`. It tells when all are connected, and for each publication when the last has it. */
import { connect } from 'node:net';

const [port, count] = process.argv.slice(2).map(Number) as [number, number];
const reached = new Map<number, number>();
let connected = 0;

/** So many connect at a time. */
const together = 200;

function open(): Promise<void> {
  return new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () =>
      socket.write('GET /channels?channel=board HTTP/1.1\r\nHost: bench.test\r\nAccept: text/event-stream\r\n\r\n'),
    );
    socket.once('error', reject);
    socket.on('data', (chunk: Buffer) => {
      const text = chunk.toString('latin1');
      if (text.startsWith('HTTP/1.1 200')) {
        connected++;
        resolve();
      }
      for (const [, number] of text.matchAll(/\((\d+)\)/g)) {
        const done = (reached.get(Number(number)) ?? 0) + 1;
        reached.set(Number(number), done);
        if (done === count) process.send?.({ number: Number(number), at: Number(process.hrtime.bigint() / 1000n) });
      }
    });
  });
}

while (connected < count) await Promise.all(Array.from({ length: Math.min(together, count - connected) }, open));
process.send?.({ connected });
process.on('disconnect', () => process.exit());
