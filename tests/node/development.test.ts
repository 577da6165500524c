/** What is said and kept while somebody writes: the mode, the secret, folders as URLs, patterns that fit nothing. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { makeProject, type Project } from '../support/projects.ts';

let project: Project;
beforeEach(() => {
  project = makeProject({
    'templates/pages/home.html': '<form method="post"></form>',
    // Sends back what the last run was given, and prints whether that was good.
    'main.js': `import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createLoom } from 'zip-loom';
const loom = await createLoom({ templates: new URL('./templates', import.meta.url) });
const last = existsSync('last.json') ? JSON.parse(readFileSync('last.json', 'utf8')) : { cookie: '', token: '' };
const exchange = await loom.exchange(new Request('http://harbour.test/', {
  method: 'POST',
  headers: { cookie: last.cookie, 'loom-token': last.token, 'sec-fetch-site': 'same-origin', 'content-type': 'application/x-www-form-urlencoded' },
  body: '',
}));
console.log((await exchange.verify()).ok);
const page = await loom.respond(new Request('http://harbour.test/'), 'home');
const token = /name="loom-token" value="([^"]+)"/.exec(await page.text())[1];
writeFileSync('last.json', JSON.stringify({ cookie: page.headers.getSetCookie()[0].split(';')[0], token }));
`,
  });
});
afterEach(() => project.remove());

/** Runs the program in an environment of its own. */
function run(environment: Record<string, string>) {
  const { NODE_ENV: _, ...rest } = process.env;
  const { stdout, stderr, status } = spawnSync(process.execPath, ['main.js'], {
    cwd: project.folder,
    encoding: 'utf8',
    env: { ...rest, ...environment },
  });
  return { stdout: stdout.trim(), stderr, status };
}

describe('the secret of development', () => {
  const secretFile = () => join(project.folder, 'node_modules/.cache/zip-loom/development-secret');
  const development = { NODE_ENV: 'development' };

  test('outlives a restart, for this user alone', () => {
    expect(run(development).stdout).toBe('false');
    expect(run(development).stdout).toBe('true');
    expect(statSync(secretFile()).mode & 0o777).toBe(0o600);
  });

  test('that somebody has spoilt is not used', () => {
    run(development);
    writeFileSync(secretFile(), 'short');
    expect(run(development).stdout).toBe('false');
    expect(readFileSync(secretFile(), 'utf8')).toBe('short');
  });

  test('is not made in production, which says what is needed', () => {
    const { status, stderr } = run({ NODE_ENV: 'production' });
    expect([status, existsSync(secretFile())]).toEqual([1, false]);
    expect(stderr).toContain('NODE_ENV=development makes one by itself');
  });
});

describe('production', () => {
  const said = 'Zip Loom is in production mode';

  test('is said where nobody has asked for it', () => {
    rmSync(join(project.folder, 'templates/pages/home.html'));
    writeFileSync(join(project.folder, 'templates/pages/home.html'), 'x');
    writeFileSync(
      join(project.folder, 'main.js'),
      "import { createLoom } from 'zip-loom';\nawait createLoom({ templates: 'templates', ...JSON.parse(process.env.OPTIONS ?? '{}') });\n",
    );
    const { stdout, stderr } = run({});
    expect([stdout, stderr]).toEqual(['', expect.stringContaining(said)]);
    expect(stderr).toContain('NODE_ENV=development');
    for (const environment of [
      { NODE_ENV: 'production' },
      { NODE_ENV: 'test' },
      { OPTIONS: '{"mode":"production"}' },
      { OPTIONS: '{"logger":false}' },
    ])
      expect(run(environment)).toEqual({ stdout: '', stderr: '', status: 0 });
  });
});

test('patterns that fit no page are logged at the start', async () => {
  const patterns: string[] = [];
  const logger = { warn: (_details: object, message: string) => patterns.push(message), error: () => {} };
  const sources = { 'pages/staff/a.html': 'x', 'a-l.html': '<slot></slot>' };
  await createLoom({
    sources,
    logger,
    layouts: { '**': 'a-l', 'staff/*': 'a-l', 'staf/**': 'a-l', 'staff/a': 'none' },
  });
  expect(patterns).toEqual([expect.stringContaining('The pattern “staf/**” of “layouts” fits no page.')]);
});
