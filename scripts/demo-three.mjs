/** `npm run demo:three`: three processes of the harbour behind one address, with Redis between them. `PORT` sets the port. */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { freePort, openProxy } from './proxy.mjs';
import { harbour, run } from './run.mjs';
import { requireNode, requirePackages, requirePrograms } from './setup.mjs';

const [port, processes] = [Number(process.env['PORT'] ?? 3000), 3];

requireNode();
requirePackages();
requirePrograms(['redis-server']);
if (!process.argv.includes('--built')) {
  console.log('Building …');
  run('node', ['scripts/build.mjs']);
  run('npx', ['vite', 'build', '--config', 'examples/harbour/vite.config.ts']);
}

const folder = mkdtempSync(join(tmpdir(), 'tern-harbour-three-'));
let isClosing = false;
let proxy;
const harbours = [];
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => close(0));

/** In groups of their own: an interrupt from the terminal is for this process, which ends the harbours before Redis. */
const apart = { detached: true };

const redis = { port: await freePort(), child: undefined };
startRedis();

const environment = {
  ...process.env,
  REDIS_URL: `redis://127.0.0.1:${redis.port}`,
  HARBOUR_FOLDER: folder,
  HARBOUR_SECRET: randomBytes(32).toString('base64'),
};
// One after another: the first one fills the database.
for (let number = 1; number <= processes; number++) await openHarbour(number);

try {
  proxy = await openProxy(
    port,
    harbours.map((one) => one.port),
  );
  const ids = harbours.map(({ child }) => child.pid).join(', ');
  console.log(`Tern Harbour is open: http://localhost:${port}/`);
  console.log(`Three processes stand behind it (${ids}), with Redis (${redis.child.pid}).`);
  console.log('End any of them (kill -9), and see that nothing is missed.');
} catch (error) {
  console.error(`The harbour could not open: ${error.message}. PORT sets another port.`);
  close(1);
}

/** With all that it was told, also when it was killed. */
function startRedis() {
  const place = ['--port', String(redis.port), '--bind', '127.0.0.1', '--dir', folder];
  redis.child = spawn('redis-server', [...place, '--save', '', '--appendonly', 'yes', '--appendfsync', 'always'], {
    ...apart,
    stdio: 'ignore',
  });
  startAgain('Redis', redis.child, startRedis);
}

async function openHarbour(number) {
  const one = { port: await freePort(), child: undefined };
  harbours.push(one);
  await new Promise((resolve) => start(one, number, resolve));
}

function start(one, number, opened) {
  const env = { ...environment, PORT: String(one.port) };
  const child = spawn(process.execPath, harbour, {
    ...apart,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  one.child = child;
  createInterface({ input: child.stdout }).on('line', (line) => {
    if (line.startsWith('Tern Harbour is open')) opened?.();
    else if (line.startsWith('{')) console.log(`${number} ${line}`);
  });
  startAgain(`Process ${number}`, child, () => start(one, number));
}

/** What ends by itself has a successor, as it would have under a service manager. */
function startAgain(name, child, begin) {
  child.on('exit', () => {
    if (isClosing) return;
    console.log(`${name} (${child.pid}) has ended; it is started again.`);
    setTimeout(begin, 200);
  });
}

function close(code) {
  if (isClosing) return;
  isClosing = true;
  proxy?.close();
  const running = harbours.map(({ child }) => child).filter((child) => child.exitCode === null && !child.signalCode);
  let left = running.length;
  const end = () => {
    if (left-- > 0) return;
    redis.child.kill();
    rmSync(folder, { recursive: true, force: true });
    process.exit(code);
  };
  for (const child of running) {
    child.once('exit', end);
    child.kill('SIGTERM');
  }
  end();
}
