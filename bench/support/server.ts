/** Starts one of the servers in a process of its own. */
import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** What a server says of itself. */
interface ServerState {
  /** Microseconds of the processor so far. */
  used: number;
  /** Bytes that it holds after garbage was collected, where it is asked to. */
  held: number;
}

export interface Side {
  port: number;
  state(): Promise<ServerState>;
  end(): void;
}

/** @param collects whether garbage is collected before the server says what it holds */
export async function start(name: string, side: string, collects = false): Promise<Side> {
  const script = fileURLToPath(new URL('../servers.js', import.meta.url));
  const child = fork(script, [name, side], {
    env: { ...process.env, NODE_ENV: 'production' },
    execArgv: collects ? ['--expose-gc'] : [],
  });
  const { port } = (await answerOf(child)) as { port: number };
  return {
    port,
    state: async () => {
      const answer = answerOf(child);
      child.send('state');
      return (await answer) as ServerState;
    },
    end: () => child.kill(),
  };
}

function answerOf(child: ChildProcess): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const fail = (code: number | null) => reject(new Error(`A server ended with ${code}.`));
    child.once('exit', fail);
    child.once('message', (message) => {
      child.off('exit', fail);
      resolve(message);
    });
  });
}
