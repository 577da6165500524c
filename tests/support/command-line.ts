/** The command line as it was built. It runs in a thread of this process, which takes a tenth of what another process does. */
import { resolve } from 'node:path';
import { MessageChannel, type MessagePort, receiveMessageOnPort, Worker } from 'node:worker_threads';

export interface Result {
  status: number | null;
  stdout: string;
  stderr: string;
}

/** The script, for tests that need a process of its own. */
export const builtCommand = resolve('packages/zip-loom/dist/command/main.js');

/** In milliseconds, on a machine that has much else to do. */
const longest = 240_000;

let worker: { port: MessagePort; done: Int32Array } | undefined;

/** Runs `zip-loom` in a folder. @param input what stands in standard input */
export function runCommand(folder: string, words: readonly string[], input = ''): Result {
  worker ??= startWorker();
  const { port, done } = worker;
  const before = Atomics.load(done, 0);
  port.postMessage({ words, cwd: folder, input });
  if (Atomics.wait(done, 0, before, longest) === 'timed-out')
    throw new Error(`zip-loom ${words.join(' ')} does not end.`);
  const { message } = receiveMessageOnPort(port) as { message: Result };
  if (typeof message.status === 'string') throw new Error(message.status);
  return message;
}

function startWorker() {
  const done = new Int32Array(new SharedArrayBuffer(4));
  const { port1, port2 } = new MessageChannel();
  const thread = new Worker(resolve('tests/support/command-worker.mjs'), {
    workerData: { port: port2, done },
    transferList: [port2],
  });
  // Tests end without it.
  thread.unref();
  port1.unref();
  return { port: port1, done };
}
