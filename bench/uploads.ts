/** Uploading a large file, and many at once, beside a parser that is piped to a file by hand. */
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { request } from 'node:http';
import { fileURLToPath } from 'node:url';
import { median } from './support/measure.ts';

const megabyte = 2 ** 20;
const rounds = 7;
const boundary = 'bench-boundary';
/** What repeats no pattern that a file system could make use of. */
const piece = Buffer.from(Uint8Array.from({ length: megabyte }, (_, index) => (index * 2_654_435_761) >>> 13));

interface Server {
  stop(): Promise<void>;
  /** Uploads so many megabytes; milliseconds. */
  upload(megabytes: number): Promise<number>;
  /** The most memory that was used since the last call, in bytes. */
  memory(): Promise<number>;
}

export async function printUploads(print: (line: string) => void): Promise<void> {
  const [ours, bare] = [await start('ours'), await start('bare')];
  for (const server of [ours, bare]) {
    await server.upload(20);
    await server.upload(20);
  }
  const before = { ours: await ours.memory(), bare: await bare.memory() };
  const times: { ours: number[]; bare: number[] } = { ours: [], bare: [] };
  for (let round = 0; round < rounds; round++) {
    times.ours.push(await ours.upload(200));
    times.bare.push(await bare.upload(200));
  }
  const speed = (list: number[]) => 200 / (median(list) / 1000);
  const grown = { ours: (await ours.memory()) - before.ours, bare: (await bare.memory()) - before.bare };
  const ratio = speed(times.ours) / speed(times.bare);
  print(
    `uploading 200 MB: ${speed(times.ours).toFixed(0)} MB/s, bare ${speed(times.bare).toFixed(0)} MB/s: ${ratio.toFixed(2)} (goal: 0.90${ratio < 0.9 ? ', missed' : ''})`,
  );
  print(
    `the process grew meanwhile by ${(grown.ours / megabyte).toFixed(1)} MB, bare ${(grown.bare / megabyte).toFixed(1)} MB (goal: less than 30 MB${grown.ours < 30 * megabyte ? '' : ', missed'})`,
  );
  const fifty = async (server: Server) => {
    const began = performance.now();
    await Promise.all(Array.from({ length: 50 }, () => server.upload(4)));
    return performance.now() - began;
  };
  const many: { ours: number[]; bare: number[] } = { ours: [], bare: [] };
  for (let round = 0; round < rounds; round++) {
    many.ours.push(await fifty(ours));
    many.bare.push(await fifty(bare));
  }
  print(
    `50 uploads of 4 MB at once: ${median(many.ours).toFixed(0)} ms, bare ${median(many.bare).toFixed(0)} ms: ${(median(many.bare) / median(many.ours)).toFixed(2)}; memory grew by ${(((await ours.memory()) - before.ours) / megabyte).toFixed(0)} MB, bare ${(((await bare.memory()) - before.bare) / megabyte).toFixed(0)} MB`,
  );
  await Promise.all([ours.stop(), bare.stop()]);
}

async function start(kind: 'ours' | 'bare'): Promise<Server> {
  const child = fork(fileURLToPath(new URL('./upload-server.js', import.meta.url)), [kind]);
  const [port] = (await once(child, 'message')) as [number];
  const address = `http://127.0.0.1:${port}`;
  const page = await fetch(address);
  const cookie = page.headers
    .getSetCookie()
    .map((line) => line.split(';')[0])
    .join('; ');
  const hidden = [...(await page.text()).matchAll(/type="hidden" name="([^"]+)" value="([^"]*)"/g)];
  const head = Buffer.from(
    `${hidden.map(([, name, value]) => `--${boundary}\r\nContent-Disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`).join('')}--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="a.bin"\r\nContent-Type: application/octet-stream\r\n\r\n`,
  );
  const end = Buffer.from(`\r\n--${boundary}--\r\n`);
  return {
    async stop() {
      child.kill();
      await once(child, 'exit');
    },
    memory: async () => Number(await (await fetch(`${address}/memory`)).text()),
    async upload(megabytes) {
      const began = performance.now();
      const sending = request(address, {
        method: 'POST',
        headers: {
          cookie,
          origin: address,
          'content-type': `multipart/form-data; boundary=${boundary}`,
          'content-length': head.length + megabytes * megabyte + end.length,
        },
      });
      const answered = once(sending, 'response');
      const write = (bytes: Buffer) => (sending.write(bytes) ? undefined : once(sending, 'drain'));
      await write(head);
      for (let count = 0; count < megabytes; count++) await write(piece);
      sending.end(end);
      const [response] = (await answered) as [NodeJS.ReadableStream];
      let text = '';
      for await (const part of response) text += part;
      if (text !== String(megabytes * megabyte)) throw new Error(`${kind} answered ${text}`);
      return performance.now() - began;
    },
  };
}
