/** Runs commands in one process, one after another, as they are asked for. */
import { Readable, Writable } from 'node:stream';
import { workerData } from 'node:worker_threads';
import { run } from '../../packages/zip-loom/dist/command/index.js';

const { port, done } = workerData;

port.on('message', async ({ words, cwd, input }) => {
  const written = { stdout: '', stderr: '' };
  const collected = (name) =>
    new Writable({
      write(chunk, _encoding, callback) {
        written[name] += chunk;
        callback();
      },
    });
  const stdin = Readable.from(input === '' ? [] : [input]);
  const streams = { cwd, stdin, stdout: collected('stdout'), stderr: collected('stderr') };
  const status = await run(words, streams).catch((error) => `The command threw: ${error.stack}`);
  port.postMessage({ status, ...written });
  Atomics.add(done, 0, 1);
  Atomics.notify(done, 0);
});
