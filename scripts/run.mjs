/** Runs commands for the other scripts, with Node's own modules only. */
import { spawn, spawnSync } from 'node:child_process';

/** Runs a command with its output shown; ends this process when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: 'inherit', ...options });
  if (result.error) {
    console.error(`${command} could not be started: ${result.error.message}`);
    process.exit(1);
  }
  if (result.status !== 0) process.exit(result.status ?? 1);
}

/** Jest, as arguments of Node: the tests are modules of ECMAScript. */
export const jest = ['--experimental-vm-modules', '--no-warnings', 'node_modules/jest/bin/jest.js'];

/** A program in TypeScript, as arguments of Node: as it is written. */
export function typescript(file) {
  return ['node_modules/jiti/lib/jiti-cli.mjs', file];
}

/** The harbour’s server, as arguments of Node. */
export const harbour = typescript('examples/harbour/server.ts');

/** Whether a command runs and succeeds; nothing is shown. */
export function succeeds(command, args) {
  return spawnSync(command, args, { stdio: 'ignore' }).status === 0;
}

/** Runs a server with its output shown until it ends by itself: whoever ends this process lets it finish its answers first. */
export function runServer(command, args) {
  const server = spawn(command, args, { stdio: 'inherit' });
  process.on('SIGTERM', () => server.kill('SIGTERM'));
  // A terminal tells both.
  process.on('SIGINT', () => {});
  server.on('exit', (code) => process.exit(code ?? 1));
}
