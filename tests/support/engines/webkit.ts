/** WebKit: Debian’s MiniBrowser under Xvfb, by its own driver through W3C WebDriver. Each visitor is a session. */
import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { callOf, type Engine, type Key, type Tab } from './tab.ts';

export async function openWebKit(): Promise<Engine> {
  const display = await startDisplay();
  const port = await freePort();
  const driver = spawn('WebKitWebDriver', ['-p', String(port)], {
    stdio: 'ignore',
    // Its web processes run as root in containers that have no namespaces to give.
    env: {
      ...process.env,
      DISPLAY: display.name,
      WEBKIT_FORCE_SANDBOX: '0',
      WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: '1',
      LIBGL_ALWAYS_SOFTWARE: '1',
      GDK_BACKEND: 'x11',
    },
  });
  const address = `http://127.0.0.1:${port}`;
  await answers(`${address}/status`);
  const sessions = new Set<string>();
  return {
    name: 'webkit',
    async open() {
      const capabilities = {
        alwaysMatch: { 'webkitgtk:browserOptions': { binary: browserPath(), args: ['--automation'] } },
      };
      const { sessionId } = await command<{ sessionId: string }>(`${address}/session`, { capabilities });
      sessions.add(sessionId);
      const session = `${address}/session/${sessionId}`;
      await command(`${session}/timeouts`, { script: scriptLimit, pageLoad: 60_000 });
      const window = await command<string>(`${session}/window`);
      return tabOf(session, { current: window }, window, async () => {
        sessions.delete(sessionId);
        await command(session, undefined, 'DELETE');
      });
    },
    async close() {
      for (const id of sessions) await command(`${address}/session/${id}`, undefined, 'DELETE').catch(() => {});
      await end(driver);
      await end(display.process);
    },
  };
}

/** @param windows which window of the session commands go to */
function tabOf(session: string, windows: { current: string }, window: string, close: () => Promise<void>): Tab {
  const send = async <Result>(path: string, body?: object, { method, limit }: Sending = {}): Promise<Result> => {
    if (windows.current !== window) await command(`${session}/window`, { handle: window });
    windows.current = window;
    return command<Result>(`${session}/${path}`, body, method, limit);
  };
  const run = <Result>(expression: string) =>
    // A promise is waited for, and what it gives is JSON in every engine alike.
    send<{ value?: Result; error?: string }>(
      'execute/async',
      {
        script: `const done = arguments[arguments.length - 1];
        Promise.resolve().then(() => ${expression}).then((value) => done({ value }), (error) => done({ error: String(error) }));`,
        args: [],
      },
      // A script whose page is left while it runs is kept with its page, its own time limit too: the driver never answers.
      // Callers that wait for something ask again.
      { limit: scriptLimit + 2000 },
    ).then(({ value, error }) => {
      if (error !== undefined) throw new Error(error);
      return value as Result;
    });
  const keys = (actions: object[]) => send<void>('actions', { actions: [{ type: 'key', id: 'keyboard', actions }] });
  return {
    goto: (url) => send('url', { url }),
    reload: () => send('refresh', {}),
    back: () => run('void setTimeout(() => history.back())'),
    forward: () => run('void setTimeout(() => history.forward())'),
    url: () => send('url'),
    run: (work, ...given) => run(callOf(work, given)),
    async click(selector) {
      const element = await send<object>('element', { using: 'css selector', value: selector });
      await send(`element/${Object.values(element)[0]}/click`, {});
    },
    type: (text) =>
      keys(
        [...text].flatMap((value) => [
          { type: 'keyDown', value },
          { type: 'keyUp', value },
        ]),
      ),
    press: (key) =>
      keys([
        { type: 'keyDown', value: keyCodes[key] },
        { type: 'keyUp', value: keyCodes[key] },
      ]),
    async sibling() {
      const { handle } = await send<{ handle: string }>('window/new', { type: 'window' });
      return tabOf(session, windows, handle, () => send('window', undefined, { method: 'DELETE' }));
    },
    close,
  };
}

/** W3C WebDriver §17.4.2. */
const keyCodes: Record<Key, string> = { Enter: '\uE007', Tab: '\uE004', Escape: '\uE00C', Backspace: '\uE003' };

/** The browser that the library’s package brings. */
function browserPath(): string {
  if (process.env['WEBKIT']) return process.env['WEBKIT'];
  const said = execFileSync('dpkg', ['-S', '*/MiniBrowser'], { encoding: 'utf8' });
  const path = said.split(/:\s|\n/).find((part) => part.endsWith('/MiniBrowser'));
  if (!path) throw new Error('No package of WebKitGTK brings a MiniBrowser: apt-get install webkit2gtk-driver');
  return path;
}

/** How long a script may run, in milliseconds. */
const scriptLimit = 5000;

interface Sending {
  method?: string;
  /** Milliseconds. */
  limit?: number;
}

async function command<Result>(
  url: string,
  body?: object,
  method = body ? 'POST' : 'GET',
  limit = 45_000,
): Promise<Result> {
  // A driver that has lost its page says nothing at all.
  const answer = await fetch(url, {
    method,
    signal: AbortSignal.timeout(limit),
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const { value } = (await answer.json()) as { value: Result & { error?: string; message?: string } };
  if (!answer.ok) throw new Error(`${method} ${url}: ${value.error} ${value.message}`);
  return value;
}

/** A screen that nobody sees. */
async function startDisplay(): Promise<{ name: string; process: ChildProcess }> {
  const screen = spawn('Xvfb', ['-displayfd', '3', '-screen', '0', '1280x900x24', '-nolisten', 'tcp'], {
    stdio: ['ignore', 'ignore', 'ignore', 'pipe'],
  });
  const [number] = (await once(screen.stdio[3]!, 'data')) as [Buffer];
  return { name: `:${String(number).trim()}`, process: screen };
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as { port: number };
  server.close();
  await once(server, 'close');
  return port;
}

async function answers(url: string): Promise<void> {
  for (let attempt = 0; ; attempt++) {
    const isThere = await fetch(url).then(
      () => true,
      () => false,
    );
    if (isThere) return;
    if (attempt > 200) throw new Error(`Nothing answers at ${url}.`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = once(child, 'exit');
  child.kill();
  await ended;
}
