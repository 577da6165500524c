/** Gets what a command needs and the machine lacks: packages by npm, programs by apt-get where that is allowed. */

import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { run, succeeds } from './run.mjs';

const lowest = [20, 19];

/** Ends the process when this Node is too old. */
export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > lowest[0] || (major === lowest[0] && minor >= lowest[1])) return;
  console.error(`Node ${lowest.join('.')} or newer is needed; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Installs the packages of the lock file, unless just these are there already. */
export function requirePackages() {
  const stamp = 'node_modules/.installed';
  const wanted = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Installing packages (npm ci) …');
  run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, wanted);
}

/** Programs that Debian packages bring: how to tell that they are there. */
const programs = {
  git: ['git', '--version'],
  'chromium-headless-shell': ['which', 'chromium-headless-shell'],
  'firefox-esr': ['firefox-esr', '--version'],
  'webkit2gtk-driver': ['which', 'WebKitWebDriver'],
  xvfb: ['which', 'Xvfb'],
  'redis-server': ['redis-server', '--version'],
  wrk: ['which', 'wrk'],
  xterm: ['which', 'xterm'],
  imagemagick: ['which', 'import'],
  neovim: ['which', 'nvim'],
};

/** The browsers of tests and benchmarks, and what WebKit’s needs. Chromium without windows takes a third of the time of the whole one. */
export const browsers = ['chromium-headless-shell', 'firefox-esr', 'webkit2gtk-driver', 'xvfb'];

/** Installs Debian packages that are missing, or says what to install and ends the process. */
export function requirePrograms(names) {
  const missing = names.filter((name) => !succeeds(programs[name][0], [programs[name][1]]));
  if (missing.length === 0) return;
  const mayInstall = process.getuid?.() === 0 && succeeds('apt-get', ['--version']);
  if (mayInstall) {
    console.log(`Installing ${missing.join(', ')} (apt-get) …`);
    const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    const quiet = { stdio: ['ignore', 'ignore', 'inherit'], env: environment };
    run('apt-get', ['update', '-qq'], quiet);
    run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], quiet);
    return;
  }
  console.error(`Please install ${missing.join(', ')} first:\n  sudo apt-get install ${missing.join(' ')}`);
  process.exit(1);
}
