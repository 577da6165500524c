/** Runs the blocks of one chapter, and asks every server that they start. Its last line says how many were run. */
import { type ListenOptions, Server } from 'node:net';

const started: Server[] = [];
const listen = Server.prototype.listen;
// Several chapters are run at the same time: each server gets a port that is free.
Server.prototype.listen = function (this: Server, _port?: unknown, ...rest: unknown[]) {
  started.push(this);
  const options: ListenOptions = { port: 0, host: '127.0.0.1' };
  return listen.call(
    this,
    options,
    rest.find((one): one is () => void => typeof one === 'function'),
  );
} as typeof listen;

let reached = 0;
const { run } = (await import(`./${process.argv[2]}`)) as { run(at: (index: number) => void): Promise<void> };
await run((index) => {
  reached = index + 1;
});
for (const server of started) {
  const address = server.address();
  if (address === null || typeof address === 'string') throw new Error('A server does not listen.');
  const response = await fetch(`http://127.0.0.1:${address.port}/`);
  if (response.status !== 200) throw new Error(`A server answers ${response.status}.`);
}
console.log(reached);
process.exit(0);
