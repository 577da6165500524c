/** A server that takes one file, ours or bare: `node upload-server.js ours|bare`. It tells its port, and on `/memory` the most memory that it used. */
import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import busboy from 'busboy';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { nodeListener } from 'zip-loom/node';
import { z } from 'zod';

const folder = mkdtempSync(join(tmpdir(), 'bench-uploads-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
process.on('SIGTERM', () => process.exit());

const largest = 400 * 2 ** 20;

async function ours(): Promise<RequestListener> {
  const form = defineForm('upload', z.object({ file: z.file() }), {
    limits: { file: largest, allFiles: largest },
  });
  const loom = await createLoom({
    sources: {
      'pages/upload.html': '<meta (takes form)><form (bind form) action="/" method="post"><input name="file"></form>',
    },
    secret: 'a secret for benchmarks alone',
    uploads: join(folder, 'uploads'),
    uploadQuota: 64 * largest,
    mode: 'production',
  });
  return nodeListener(async (request) => {
    const exchange = await loom.exchange(request);
    if (request.method !== 'POST') return exchange.respond('upload', { form: form.blank() });
    const sent = await exchange.read(form);
    return new Response(sent.ok ? String(sent.value.file.size) : JSON.stringify(sent.errors));
  });
}

const bare: RequestListener = (req, res) => {
  if (req.method !== 'POST') {
    res.end('');
    return;
  }
  const path = join(folder, randomUUID());
  let written: Promise<number> = Promise.resolve(0);
  const parser = busboy({ headers: req.headers });
  parser.on('file', (_name, stream) => {
    const target = createWriteStream(path, { flags: 'wx' });
    written = new Promise((resolve) => target.on('finish', () => resolve(target.bytesWritten)));
    stream.pipe(target);
  });
  parser.on('close', async () => {
    res.end(String(await written));
    await rm(path, { force: true });
  });
  req.pipe(parser);
};

const listener = process.argv[2] === 'ours' ? await ours() : bare;
let most = 0;
const look = () => {
  most = Math.max(most, process.memoryUsage.rss());
};
setInterval(look, 20).unref();
const server = createServer((req, res) => {
  if (req.url !== '/memory') {
    listener(req, res);
    return;
  }
  look();
  res.end(String(most));
  most = 0;
});
server.listen(0, '127.0.0.1', () => process.send?.((server.address() as AddressInfo).port));
