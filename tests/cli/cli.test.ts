/** The command line, as it is run. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { builtCommand, runCommand } from '../support/command-line.ts';
import { makeProject } from '../support/projects.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zip-loom-cli-'));
  mkdirSync(join(folder, 'templates/pages'), { recursive: true });
  writeFileSync(
    join(folder, 'templates/pages/good.html'),
    '<meta (takes names: string[])>\n<p (for name of names)>${name}</p>\n',
  );
  writeFileSync(join(folder, 'templates/pages/bad.html'), '<meta (takes name)>\n<p>${nmae}</p>\n');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function run(args: string[], input = '', cwd = folder, env?: NodeJS.ProcessEnv) {
  if (!env) return runCommand(cwd, args, input);
  const { status, stdout, stderr } = spawnSync(process.execPath, [builtCommand, ...args], {
    cwd,
    input,
    env: { ...process.env, ...env },
    encoding: 'utf8',
  });
  return { status, stdout, stderr };
}

describe('render', () => {
  test('prints a page from data on standard input, though another page is wrong', () => {
    expect(run(['render', 'good', '--data', '-'], '{"names": ["<a>", "b"]}')).toEqual({
      status: 0,
      stdout: '<p>&lt;a&gt;</p><p>b</p>\n',
      stderr: '',
    });
  });

  test('an error in the page: frame, message, exit code 1', () => {
    const { status, stdout, stderr } = run(['render', 'bad', '--data', '-'], '{"name": 1}');
    expect([status, stdout]).toEqual([1, '']);
    expect(stderr).toBe(
      'templates/pages/bad.html:2:6  unknown-name\n  2 | <p>${nmae}</p>\n    |      ~~~~\n  There is no “nmae” here. Did you mean “name”?\n',
    );
  });

  test('a project is found from a folder inside it, with its configuration', () => {
    const other = join(folder, 'other');
    mkdirSync(join(other, 'templates/pages/deep'), { recursive: true });
    writeFileSync(join(other, 'templates/pages/x.html'), 'x ${shout("y")}\n');
    writeFileSync(
      join(other, 'zip-loom.config.ts'),
      'const shout = (text: string): string => text.toUpperCase();\nexport default { helpers: { shout } };\n',
    );
    expect(run(['render', 'x'], '', join(other, 'templates/pages/deep')).stdout).toBe('x Y\n');
  });

  test('a missing value', () => {
    const { status, stderr } = run(['render', 'good']);
    expect(status).toBe(1);
    expect(stderr).toContain(
      'good takes names, which was not given; it was given nothing. Give it with --data: a JSON file, or - for standard input, such as {"names":"…"}.',
    );
    const extra = run(['render', 'good', '--data', '-'], '{"names": [], "titel": 1}');
    expect(extra.stderr).toContain(
      'good was given “titel”, which it does not take. Leave it out of the data of --data',
    );
  });

  test.each([
    ['an unknown page', ['render', 'goood'], /Did you mean “good”/],
    ['data that is not JSON', ['render', 'good', '--data', '-'], /not JSON/],
    ['a data file that is not there', ['render', 'good', '--data', 'none.json'], /none\.json cannot be read/],
    ['an unknown command', ['rendr'], /^There is no command “rendr”\. Did you mean “render”\?\n/],
    ['a missing argument', ['render'], /^Nobody has said which page is to be rendered\./],
    ['an unknown option', ['render', 'good', '--dta', 'x'], /^There is no option “--dta”\. Did you mean “--data”\?\n/],
    [
      'an option without its value',
      ['render', 'good', '--data'],
      /^The option “--data” needs a value: --data <file>\n/,
    ],
    ['too much', ['render', 'good', 'bad'], /^“render” takes one argument, not 2\.\n/],
  ])('%s: exit code 2', (_name, args, message) => {
    const { status, stderr } = run(args, '{');
    expect(status).toBe(2);
    expect(stderr).toMatch(message);
  });
});

describe('check', () => {
  test('prints every problem and counts them', () => {
    const { status, stdout } = run(['check']);
    expect(status).toBe(1);
    expect(stdout).toContain('templates/pages/bad.html:2:6  unknown-name');
    expect(stdout.endsWith('\n1 problem in 1 of 2 files.\n')).toBe(true);
  });

  test('as JSON', () => {
    const { status, stdout } = run(['check', '--json']);
    expect(status).toBe(1);
    expect(JSON.parse(stdout)).toEqual([
      {
        file: 'templates/pages/bad.html',
        line: 2,
        column: 6,
        code: 'unknown-name',
        severity: 'error',
        message: 'There is no “nmae” here.',
        hint: 'Did you mean “name”?',
      },
    ]);
  });

  test('of one file that is right', () => {
    expect(run(['check', 'templates/pages/good.html'])).toEqual({
      status: 0,
      stdout: 'No problems in 1 file.\n',
      stderr: 'TypeScript is not installed in this project, so types were not checked.\n',
    });
  });

  test('of the files below a folder', () => {
    expect(run(['check', 'templates/']).stdout).toContain('1 problem in 1 of 2 files.');
    expect(run(['check', '.']).stdout).toContain('1 problem in 1 of 2 files.');
    expect(run(['check', '../pages/good.html'], '', join(folder, 'templates/pages')).stdout).toBe(
      'No problems in 1 file.\n',
    );
  });

  test.each(['README.md', 'src', 'templates/pag'])('of %s, which is no template: exit code 2', (path) => {
    const { status, stderr } = run(['check', path]);
    expect([status, stderr]).toEqual([2, expect.stringContaining(`${path} is not a template of this project`)]);
  });

  test('--trusted lists the places where a template trusts a value', () => {
    writeFileSync(
      join(folder, 'templates/pages/trusting.html'),
      '<meta (takes a)>\n<p>${trustedHTML(a)}</p><a (if a) href=${trustedURL(a)}>x</a>\n',
    );
    const { status, stdout } = run(['check', '--trusted']);
    rmSync(join(folder, 'templates/pages/trusting.html'));
    expect([status, stdout]).toEqual([
      0,
      'templates/pages/trusting.html:2:6  trustedHTML(a)\ntemplates/pages/trusting.html:2:42  trustedURL(a)\n2 places.\n',
    ]);
  });

  test('outside any project: exit code 2', () => {
    const { status, stderr } = run(['check'], '', tmpdir());
    expect(status).toBe(2);
    expect(stderr).toContain('There is no project');
  });

  test('help shows an example', () => {
    const { status, stdout } = run(['check', '--help']);
    expect([status, stdout.includes('zip-loom check templates/pages/berths')]).toEqual([0, true]);
  });

  test('the harbour has no problems', () => {
    expect(run(['check'], '', resolve('examples/harbour')).stdout).toMatch(/^No problems in \d+ files\.\n$/);
  });
});

test.each(['--version', '-v'])('%s prints the version', (option) => {
  const { version } = JSON.parse(readFileSync('packages/zip-loom/package.json', 'utf8')) as { version: string };
  expect(run([option])).toEqual({ status: 0, stdout: `${version}\n`, stderr: '' });
});

test.each([['--help'], ['render good --data -'], ['check --no-types']])(
  'a reader of “%s” who has read enough is no error',
  (command) => {
    const main = `${process.execPath} ${builtCommand}`;
    const names = JSON.stringify({ names: Array.from({ length: 20_000 }, (_, at) => `berth ${at}`) });
    const { stderr, stdout } = spawnSync('bash', ['-c', `${main} ${command} | head -c 10`], {
      cwd: folder,
      input: names,
      encoding: 'utf8',
    });
    expect([stdout.length, stderr]).toEqual([10, '']);
  },
);

test('a command is known by its name wherever the project is named', () => {
  for (const args of [
    ['--project', folder, 'check', '--json'],
    ['check', '--json', '--project', folder],
  ])
    expect(run(args, '', tmpdir()).status).toBe(1);
  expect(run(['--project', 'check', 'render', 'good'], '', tmpdir()).stderr).not.toContain('no command');
  expect(run(['chekc']).stderr).toContain('Did you mean “check”?');
});

test('a configuration with an option that is none is told with its file', () => {
  const other = join(folder, 'configured');
  mkdirSync(join(other, 'templates/pages'), { recursive: true });
  writeFileSync(join(other, 'zip-loom.config.js'), 'export default { layout: {} };\n');
  const { status, stderr } = run(['check'], '', other);
  expect([status, stderr]).toEqual([2, 'There is no option “layout” of zip-loom.config.js. Did you mean “layouts”?\n']);
});

test.each([
  ['none in a pipe', {}, false],
  ['none in a job of CI', { CI: 'true' }, false],
  ['where they are asked for', { FORCE_COLOR: '1' }, true],
  ['none where they are refused', { FORCE_COLOR: '1', NO_COLOR: '1' }, false],
])('colours: %s', (_, env, coloured) => {
  for (const args of [
    ['check', 'templates/pages/bad.html'],
    ['render', 'bad'],
    ['adopt', resolve('examples/prototype'), '--dry-run'],
  ]) {
    const { stdout, stderr } = run(args, '', folder, { CI: '', FORCE_COLOR: '', NO_COLOR: '', ...env });
    expect(`${stdout}${stderr}`.includes('\x1b[')).toBe(coloured);
  }
});

test.each([
  ['build', ['build', '--out', 'a-file/out']],
  ['render --all', ['render', '--all', '--out', 'a-file/out', '--force']],
  ['types', ['types', '--out', 'a-file/templates.d.ts']],
  ['repeats', ['repeats', '--html', 'a-file/repeats.html']],
])('%s says in a sentence where it could not write', (_name, args) => {
  const plain = makeProject({ 'templates/pages/home.html': '<p>x</p>', 'a-file': '' });
  const { status, stderr } = plain.loom(...args);
  expect([status, /^\S*a-file\S* cannot be (?:read|written): .+\.\n$/.test(stderr), stderr]).toEqual([2, true, stderr]);
  plain.remove();
});
