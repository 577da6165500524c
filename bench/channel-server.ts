/** A server that many listen to, ours or bare: `node channel-server.js ours|redis|bare`. It tells its port; `publish`, `pace` and `held` are asked by message. */
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createLoom, put, trustedHTML } from 'zip-loom';
import { createChannels, memoryBroker } from 'zip-loom/channels';
import { nodeListener } from 'zip-loom/node';
import { redisBroker } from 'zip-loom/redis';

const [, , side = 'bare', redis = ''] = process.argv;
const text = 'x'.repeat(300);

type Publish = (number: number) => Promise<void>;

async function ours(): Promise<[listener: ReturnType<typeof nodeListener>, publish: Publish]> {
  const loom = await createLoom({ sources: {}, mode: 'production', logger: false });
  const broker = side === 'redis' ? redisBroker({ url: redis }) : memoryBroker();
  const channels = createChannels({ loom, broker });
  const listener = nodeListener((request) => channels.connect(request, { authorize: () => true }));
  return [listener, (number) => channels.publish('board', put(trustedHTML(`${text}(${number})`)).inside('board'))];
}

function bare(): [listener: (req: unknown, res: ServerResponse) => void, publish: Publish] {
  const responses = new Set<ServerResponse>();
  const listener = (_req: unknown, res: ServerResponse) => {
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    res.write(': \n\n');
    responses.add(res);
    res.once('close', () => responses.delete(res));
  };
  return [
    listener,
    async (number) => {
      const event = `event: update\nid: ${number}\ndata: <template>${text}(${number})</template>\n\n`;
      for (const res of responses) res.write(event);
    },
  ];
}

const [listener, publish] = side === 'bare' ? bare() : await ours();
const server = createServer(listener);
server.listen(0, '127.0.0.1', 10_000, () => process.send?.({ port: (server.address() as AddressInfo).port }));
process.on('message', async (message: { publish?: number; pace?: number; held?: true }) => {
  if (message.publish !== undefined) await publishNow(message.publish);
  if (message.pace !== undefined) {
    // As many as are due: one each millisecond.
    const start = performance.now();
    for (let number = 1; number <= message.pace; await new Promise((wait) => setTimeout(wait, 1)))
      for (const due = performance.now() - start; number <= Math.min(message.pace, due); number++)
        await publishNow(number);
  }
  if (message.held) {
    globalThis.gc?.();
    const { heapUsed, external } = process.memoryUsage();
    process.send?.({ held: heapUsed + external });
  }
});

async function publishNow(number: number): Promise<void> {
  const at = Number(process.hrtime.bigint() / 1000n);
  await publish(number);
  process.send?.({ number, at });
}

process.on('disconnect', () => process.exit());
