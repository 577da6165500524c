/** `npm create zip-loom`: projects that run at once. `zip-loom new`: parts in their places. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { delimiter, join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { runCommand } from '../support/command-line.ts';
import { installPackages, makeProject, type Project } from '../support/projects.ts';
import { freePort } from '../support/redis-server.ts';
import { addressOf } from '../support/started.ts';

let project: Project;
beforeAll(() => {
  project = makeProject({ 'templates/pages/home.html': '<p>x</p>\n' });
});
afterAll(() => project.remove());

const read = (path: string) => readFileSync(join(project.folder, path), 'utf8');
const filesIn = (folder: string) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) =>
      join(entry.parentPath, entry.name)
        .slice(folder.length + 1)
        .replaceAll('\\', '/'),
    )
    .sort();

/** Writes a new site into the project’s folder, or into one below it. */
function create(args: readonly string[], cwd = project.folder) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [resolve('packages/create-zip-loom/dist/main.js'), ...args],
    {
      cwd,
      encoding: 'utf8',
    },
  );
  return { status, stdout, stderr };
}

/** What `check` finds, each kind once. */
function codesIn(folder: string): string[] {
  const { stdout } = runCommand(folder, ['check', '--json']);
  return [...new Set((JSON.parse(stdout) as Array<{ code: string }>).map(({ code }) => code))];
}

/** Runs a script of the project, as npm does. */
function run(folder: string, script: string) {
  const { scripts } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as {
    scripts: Record<string, string>;
  };
  const { status, stdout, stderr } = spawnSync(scripts[script]!, {
    cwd: folder,
    shell: true,
    encoding: 'utf8',
    env: { ...process.env, PATH: [join(folder, 'node_modules/.bin'), process.env['PATH']].join(delimiter) },
  });
  return { status, text: stdout + stderr };
}

describe.each([
  ['hono', 'ts'],
  ['hono', 'js'],
  ['node', 'ts'],
  ['node', 'js'],
  ['express', 'ts'],
  ['express', 'js'],
])('a project for %s in %s', (server, script) => {
  const name = `${server}-${script}`;
  const folder = () => join(project.folder, name);

  test('is written, and everything about it holds', () => {
    const { stdout, status } = create([name, '--server', server, ...(script === 'js' ? ['--js'] : [])]);
    expect([stdout, status]).toEqual([
      expect.stringContaining(`in ${name}.\n\n  cd ${name}\n  npm install\n  npm run dev\n`),
      0,
    ]);
    installPackages(folder(), { packed: true });
    const tested = run(folder(), 'test');
    expect([tested.text, tested.status]).toEqual([expect.stringContaining('# pass 3'), 0]);
    const checked = run(folder(), 'check');
    expect([checked.text, checked.status]).toEqual(['No problems in 4 files.\n', 0]);
    // It has written the types again: they were there.
    if (script === 'ts')
      expect(read(`${name}/templates.d.ts`)).toBe(readFileSync('examples/starter/templates.d.ts', 'utf8'));
  });

  test('answers', async () => {
    const loader = script === 'ts' ? ['--import', 'tsx'] : [];
    const child = spawn(process.execPath, [...loader, `server.${script}`, '--dev'], {
      cwd: folder(),
      env: { ...process.env, PORT: String(await freePort()) },
    });
    try {
      const address = await addressOf(child);
      const answers = await Promise.all(
        ['', 'about', 'site.css', 'client.min.js', 'client-changes.min.js', 'zip-loom.js', 'none'].map(async (path) => {
          const response = await fetch(address + path);
          return [path, response.status, response.headers.get('content-type')?.split(';')[0]];
        }),
      );
      expect(answers.slice(0, 5)).toEqual([
        ['', 200, 'text/html'],
        ['about', 200, 'text/html'],
        ['site.css', 200, 'text/css'],
        ['client.min.js', 200, 'text/javascript'],
        ['client-changes.min.js', 200, 'text/javascript'],
      ]);
      expect(answers.slice(5).map(([, status]) => status)).toEqual([404, 404]);
    } finally {
      child.kill();
    }
  });
});

test('its templates are laid out', () => {
  create(['laid-out']);
  expect(project.loom('format', '--check', '--project', 'laid-out').stdout).toBe('All 4 templates are laid out.\n');
});

test('examples/starter is what it writes', () => {
  const folder = join(project.folder, 'starter');
  create(['starter']);
  expect(filesIn(folder)).toEqual(filesIn(resolve('examples/starter')));
  for (const file of filesIn(folder))
    expect(readFileSync(join(folder, file), 'utf8')).toBe(readFileSync(join('examples/starter', file), 'utf8'));
});

describe('a part', () => {
  test.each([
    ['page', 'berths/new-list', ['templates/pages/berths/new-list.html']],
    ['partial', 'berth-card', ['templates/partials/berth-card.html']],
    ['layout', 'staff-layout', ['templates/layouts/staff-layout.html']],
    ['form', 'boat-owner', ['forms/boat-owner-form.js', 'templates/partials/boat-owner-form.html']],
  ])('%s %s', (kind, name, files) => {
    const { stdout, status } = project.loom('new', kind, name);
    expect([stdout.split('\n\n')[0], status]).toEqual([files.join('\n'), 0]);
    // Nobody calls it yet.
    expect(codesIn(project.folder)).toEqual(kind === 'page' ? [] : ['unused-partial']);
    for (const file of files) expect(existsSync(join(project.folder, file))).toBe(true);
    const again = project.loom('new', kind, name);
    expect([again.status, again.stderr]).toEqual([2, expect.stringContaining('is there already')]);
    expect(project.loom('new', kind, name, '--force').status).toBe(0);
  });

  test('a form in a project of TypeScript is typed, and can be shown', () => {
    const folder = join(project.folder, 'typed');
    create(['typed']);
    installPackages(folder);
    expect(project.loom('new', 'form', 'boat', '--project', 'typed').stdout).toContain('typed/forms/boat-form.ts\n');
    expect(read('typed/templates/partials/boat-form.html')).toContain('(takes boatForm: BoatForm, action: string)');
    expect(codesIn(folder)).toEqual(['unused-partial']);
  });

  test.each([
    [['partial', 'card'], '“card” cannot be the name of a partial'],
    [['page'], 'The new page needs a name. Choose one such as berths/list'],
    [['page', '../out'], '“../out” cannot be the name of a page'],
    [['page', 'a b'], '“a b” cannot be the name of a page'],
    [['model', 'boat'], '“model” is not a kind of part'],
  ])('%j is refused', (args, message) => {
    const { status, stderr } = project.loom('new', ...args);
    expect([status, stderr]).toEqual([2, expect.stringContaining(message)]);
  });
});

describe('a folder', () => {
  test('that is not empty is left alone, but where somebody insists', () => {
    project.write('full/log.js', 'mine');
    project.write('full/other.txt', 'mine');
    const { status, stderr } = create(['full', '--js']);
    expect([status, stderr, read('full/log.js')]).toEqual([2, expect.stringContaining('full is not empty'), 'mine']);
    expect(create(['full', '--js', '--force']).status).toBe(0);
    expect([read('full/log.js') === 'mine', read('full/other.txt')]).toEqual([false, 'mine']);
  });

  test('may be the present one, and have any name', () => {
    mkdirSync(join(project.folder, 'Die Flöte!'));
    const { stdout } = create(['.', '--js'], join(project.folder, 'Die Flöte!'));
    expect(stdout).toContain('in this folder.\n\n  npm install\n');
    expect(JSON.parse(read('Die Flöte!/package.json'))).toMatchObject({ name: 'die-fl-te' });
    expect(readdirSync(project.folder).filter((name) => name.startsWith('.Die'))).toEqual([]);
    rmSync(join(project.folder, 'Die Flöte!'), { recursive: true });
  });

  test('is not there when the server is none', () => {
    const { status } = create(['wrong', '--server', 'none']);
    expect([status, existsSync(join(project.folder, 'wrong'))]).toEqual([2, false]);
  });

  test.each([[[]], [['a', 'b']], [['--nonsense', 'a']], [['a-file/site']]])('%j is refused in a sentence', (args) => {
    project.write('a-file', '');
    const { status, stderr } = create(args);
    expect([status, stderr.includes('    at '), stderr.length > 20]).toEqual([2, false, true]);
  });

  test('for a new site, `new` says what to type', () => {
    const { status, stderr } = project.loom('new', 'my-site');
    expect([status, stderr]).toEqual([2, expect.stringContaining('npm create zip-loom my-site')]);
  });
});
