/** Runs the blocks of chapters, one after another, and asks every server that they start. Prints how many were run, and what went wrong. */
import { Server } from 'node:net';
import { Hono } from 'hono';
import { withEffectiveMethod } from 'zip-loom';
import { createVisitor } from 'zip-loom/testing';

const started: Server[] = [];
const listen = Server.prototype.listen;
Server.prototype.listen = function (this: Server, ...args: unknown[]) {
  started.push(this);
  return listen.apply(this, args as never);
} as typeof listen;

/** What is written to the standard error while a chapter runs. */
let errors = '';
process.stderr.write = ((text: string | Uint8Array) => {
  // There is none here, and the broker goes on trying.
  if (!String(text).startsWith('Redis cannot be reached')) errors += String(text);
  return true;
}) as typeof process.stderr.write;
process.on('unhandledRejection', (error) => {
  errors += describe(error);
});

const outcomes: Record<string, { ran: number; errors: string }> = {};
for (const name of process.argv.slice(2)) {
  let ran = 0;
  errors = '';
  try {
    const { run } = (await import(`./${name}-run.ts`)) as { run(at: (index: number) => void): Promise<unknown> };
    const app = await run((index) => {
      ran = index + 1;
    });
    await askServers();
    if (app instanceof Hono) await visitAll(app);
  } catch (error) {
    errors += describe(error);
  }
  outcomes[name] = { ran, errors };
}
process.stdout.write(JSON.stringify(outcomes), () => process.exit(0));

function describe(error: unknown): string {
  return error instanceof Error ? (error.stack ?? error.message) : String(error);
}

async function askServers(): Promise<void> {
  for (const server of started.splice(0)) {
    const address = server.address();
    if (address === null || typeof address === 'string') throw new Error('A server does not listen.');
    const response = await fetch(`http://127.0.0.1:${address.port}/`);
    if (response.status !== 200) throw new Error(`A server answers ${response.status}.`);
  }
}

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
