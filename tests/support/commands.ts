/** The commands that the documentation shows, run one after another in a folder, and what they print. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { delimiter, dirname, join, resolve } from 'node:path';
import { expect } from '@jest/globals';
import { installPackages } from './projects.ts';

export interface Terminal {
  /** Runs a command as it is written; with `shown`, what it prints has to be that. */
  run(command: string, shown?: string): Promise<void>;
  close(): void;
}

/** For `--import`: servers of the program get ports that are free. */
export const freePorts = resolve('tests/support/free-ports.mjs');

/** `ports`: whether servers get ports that are free, whatever they ask for. */
export function openTerminal(start: string, { ports = 'free' }: { ports?: 'free' | 'asked' } = {}): Terminal {
  let folder = start;
  const servers: ChildProcess[] = [];
  const options = () => ({
    cwd: folder,
    shell: 'bash',
    env: {
      ...process.env,
      HOME: start,
      npm_config_offline: 'true',
      npm_config_update_notifier: 'false',
      PATH: [...programsOf(folder), process.env['PATH']].join(delimiter),
      ...(ports === 'free' && { NODE_OPTIONS: `--import ${freePorts}` }),
    },
  });

  async function serve(command: string, shown: string | undefined): Promise<void> {
    const server = spawn(command, { ...options(), detached: true });
    servers.push(server);
    let output = '';
    await new Promise<void>((printed) => {
      const look = (text: Buffer) => {
        output += String(text);
        if (/http:\/\/localhost:\d+\/.*\n/.test(output)) printed();
      };
      server.stdout.on('data', look);
      server.stderr.on('data', look);
      server.once('exit', printed);
    });
    const anyPort = (text: string) => text.replace(/localhost:\d+/g, 'localhost:0');
    if (shown !== undefined) expectShown(anyPort(output), anyPort(shown));
    else expect(output).toMatch(/http:\/\/localhost:\d+\//);
  }

  return {
    async run(command, shown) {
      const [name = '', argument = ''] = command.replace(/ +#.*$/, '').split(' ');
      if (name === 'cd') folder = join(folder, argument);
      else if (command.startsWith('npm install')) {
        // All packages are there after the first time.
        if (!existsSync(join(folder, 'node_modules'))) installPackages(folder, { packed: true });
      } else if (/^npm run dev|\b(?:node|tsx) server\.|zip-loom gallery/.test(command)) await serve(command, shown);
      else {
        // What npx finds is first in the path; looking for it takes as long as most commands.
        const found = ports === 'free' ? command.replace(/\bnpx /g, '') : command;
        const { stdout, stderr, status } = spawnSync(found, { ...options(), encoding: 'utf8' });
        // A finding is 1.
        expect({
          command,
          errors: stderr.replace(/^npm (?:warn|notice).*\n/gm, ''),
          done: status === 0 || status === 1,
        }).toEqual({
          command,
          errors: '',
          done: true,
        });
        if (shown !== undefined) expectShown(stdout.endsWith('\n') ? stdout : `${stdout}\n`, shown);
      }
    },
    close() {
      for (const { pid } of servers)
        try {
          process.kill(-pid!);
        } catch {
          // It has ended by itself.
        }
    },
  };
}

/** Where the programs of packages are, from a folder upwards. */
function programsOf(folder: string): string[] {
  const above = dirname(folder);
  return [join(folder, 'node_modules/.bin'), ...(above === folder ? [] : programsOf(above))];
}

/** A line of `…` stands for any lines, `…` in a line for any text, and a size or a time for any of its kind. */
function expectShown(output: string, shown: string): void {
  const pattern = shown
    .split('\n')
    .map((line) => (line.trim() === '…' ? '(?:.*\\n)*?' : `${patternOf(line)}\\n`))
    .join('');
  expect(output).toMatch(new RegExp(`^${pattern}$`));
}

function patternOf(line: string): string {
  return line
    .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    .replace(/ *\d+(?:\\\.\d+)? (B|kB|ms)\b/g, ' *[\\d.]+ $1')
    .replace(/ {2,}(?=\S)(?<=\S {2,})/g, ' +')
    .replaceAll('…', '.*');
}
