/** Runs the blocks of one chapter, and asks every server that they start. Its last line says how many were run. */
import { type ListenOptions, Server } from 'node:net';
import { Hono } from 'hono';
import { withEffectiveMethod } from 'zip-loom';
import { createVisitor } from 'zip-loom/testing';

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
const { run } = (await import(`./${process.argv[2]}`)) as { run(at: (index: number) => void): Promise<unknown> };
const app = await run((index) => {
  reached = index + 1;
});
for (const server of started) {
  const address = server.address();
  if (address === null || typeof address === 'string') throw new Error('A server does not listen.');
  const response = await fetch(`http://127.0.0.1:${address.port}/`);
  if (response.status !== 200) throw new Error(`A server answers ${response.status}.`);
}
if (app instanceof Hono) await visitAll(app);
console.log(reached);
process.exit(0);

/** Looks at every page, and sends the form that it has. */
async function visitAll(application: Hono): Promise<void> {
  const visitor = createVisitor((request: Request) => application.fetch(withEffectiveMethod(request)));
  for (const { method, path } of application.routes) {
    if (method !== 'GET' || path === '/channels') continue;
    const page = await visitor.visit(path.replaceAll(/:\w+/g, '7'));
    if (page.status !== 200) throw new Error(`${path} is answered with ${page.status}.`);
    if (page.count('form') === 0) continue;
    const { status } = await page.submit();
    if (![200, 422].includes(status)) throw new Error(`The form of ${path} is answered with ${status}.`);
  }
}
