/**
 * `npm run pictures`: takes every picture of `docs/screenshots` anew, on the demo data: pages in Chromium, commands in a terminal window
 * and an editor in a terminal window under Xvfb.
 */
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { chromium } from 'playwright-core';
import { harbour, run } from './run.mjs';
import { requirePackages, requirePrograms } from './setup.mjs';

requirePackages();
requirePrograms(['chromium-headless-shell', 'xvfb', 'xterm', 'imagemagick', 'neovim']);
const out = resolve('docs/screenshots');
const wanted = process.argv.slice(2);
const isWanted = (name) => wanted.length === 0 || wanted.includes(name);
const loom = `node ${resolve('packages/zip-loom/dist/command/main.js')}`;

/** Starts a server, and gives its address when it tells it, or when the one that is known answers. */
function start(args, { env = {}, known } = {}) {
  const child = spawn(process.execPath, args, { env: { ...process.env, ...env } });
  let output = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (text) => {
      output += String(text);
    });
  const address = async () => {
    for (let attempt = 0; attempt < 150; attempt++) {
      const [url] = /http:\/\/localhost:\d+\//.exec(output) ?? [];
      if (url) return url;
      const isThere = known && (await fetch(known).catch(() => undefined));
      if (isThere) return known;
      await new Promise((later) => setTimeout(later, 200));
    }
    throw new Error(`No server: ${output}`);
  };
  return { address: address(), stop: () => child.kill('SIGKILL') };
}

/** How many windows were opened. */
let windows = 0;

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox'] });

async function picture(name, address, { width = 1280, height = 800, dark = false, prepare } = {}) {
  if (!isWanted(name)) return;
  const context = await browser.newContext({ viewport: { width, height }, colorScheme: dark ? 'dark' : 'light' });
  const page = await context.newPage();
  await page.goto(address);
  await prepare?.(page);
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await context.close();
  console.log(name);
}

/** The browser's own checks are for visitors; here the site's are to be seen. */
const unchecked = (page, form) => page.locator(form).evaluate((one) => one.setAttribute('novalidate', ''));

const signIn = (path) => async (page) => {
  await page.goto(new URL('/sign-in', page.url()).href);
  await page.getByLabel('E-mail', { exact: false }).fill('esme@tern.example');
  await page.getByLabel('Password', { exact: false }).fill('low-water');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByText('Welcome aboard').waitFor();
  await page.goto(new URL(path, page.url()).href);
};

// Nothing changes while it is looked at.
const site = start(harbour, { env: { PORT: '4310', HARBOUR_PAUSE: '3600000', NODE_ENV: 'development' } });
try {
  const at = await site.address;
  await picture('home', at);
  await picture('berths', `${at}berths`);
  await picture('berth-small-dark', `${at}berths/7`, { width: 360, height: 780, dark: true });
  await picture('form-errors', at, {
    prepare: async (page) => {
      await signIn('/boats/new')(page);
      await page.locator('[name=name]').fill('G');
      await page.locator('[name=length]').fill('1');
      await unchecked(page, 'form.stacked');
      await page.locator('form.stacked button').last().click();
      await page.locator('[aria-invalid="true"]').first().waitFor();
      await page.evaluate(() => scrollTo(0, 0));
    },
  });
  await picture('form-list', at, {
    prepare: async (page) => {
      await signIn('/staff/stays/new?look=stacked')(page);
      await page.getByRole('button', { name: /add/i }).last().click();
      await page.waitForTimeout(400);
      await page.evaluate(() => scrollTo(0, document.body.scrollHeight));
    },
  });
  await picture('dialog', at, {
    prepare: async (page) => {
      await signIn('/boats')(page);
      await page.getByRole('link', { name: /^Edit/ }).nth(2).click();
      await page.locator('dialog[open] form').waitFor();
      await page.locator('dialog[open] [name=name]').fill('B');
      await unchecked(page, 'dialog[open] form.stacked');
      await page.locator('dialog[open] form.stacked button').last().click();
      await page.locator('dialog[open] [aria-invalid="true"]').first().waitFor();
    },
  });
  await picture('import-progress', at, {
    prepare: async (page) => {
      await signIn('/staff/import')(page);
      const lines = Array.from(
        { length: 2400 },
        (_, n) => `Boat ${n},${n % 500 === 7 ? 'tug' : 'sail'},${n % 700 === 9 ? 'long' : 8},Saltby Quay,Ada Windrow`,
      );
      await page.setInputFiles('input[type=file]', {
        name: 'boats.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(['name,kind,length,home port,skipper', ...lines].join('\n')),
      });
      await page.locator('form.stacked button').last().click();
      await page.waitForFunction(() => Number(document.querySelector('progress')?.value) > 900);
    },
  });
} finally {
  site.stop();
}

if (isWanted('offline')) run('npx', ['vite', 'build', '--config', 'examples/offline/vite.config.ts']);
const vite = ['node_modules/vite/bin/vite.js', 'preview', '--config', 'examples/offline/vite.config.ts'];
const offline = start([...vite, '--port', '4311', '--strictPort'], { known: 'http://localhost:4311/' });
try {
  await picture('offline', await offline.address, { prepare: (page) => page.waitForTimeout(1000) });
} finally {
  offline.stop();
}

const small = start(['--import', 'tsx', 'examples/servers/express.ts', '--dev'], { env: { PORT: '4312' } });
try {
  await picture('small-site', await small.address, {
    prepare: async (page) => {
      await page.locator('[name=boat]').fill('Salt Plover');
      await page.locator('[name=remark]').fill('Two nights, by the café.');
      await page.getByRole('main').getByRole('button').click();
      await page.locator('ol, ul').getByText('Salt Plover').first().waitFor();
    },
  });
} finally {
  small.stop();
}

if (isWanted('handbook')) {
  run('node', ['examples/handbook/build.mjs', 'build/handbook']);
  const [project, site] = ['build/handbook', 'build/handbook-site'];
  run('node', [
    resolve('packages/zip-loom/dist/command/main.js'),
    'render',
    '--all',
    '--project',
    project,
    '--out',
    resolve(site),
  ]);
}
const handbook = start(['examples/handbook/serve.mjs', 'build/handbook-site'], { env: { PORT: '4313' } });
try {
  await picture('handbook', `${await handbook.address}recipes`, {
    prepare: async (page) => {
      await page.getByRole('combobox').fill('dialog');
      await page.locator('#found a').first().waitFor();
    },
  });
} finally {
  handbook.stop();
}

const gallery = start([
  resolve('packages/zip-loom/dist/command/main.js'),
  'gallery',
  '--project',
  'examples/harbour',
  '--port',
  '0',
]);
try {
  const at = await gallery.address;
  await picture('gallery', `${at}gallery/pages/berths/list.html`, { prepare: (page) => page.waitForTimeout(2500) });
} finally {
  gallery.stop();
}

if (isWanted('trace')) {
  const file = join(tmpdir(), `traced-${process.pid}.html`);
  run('node', [
    resolve('packages/zip-loom/dist/command/main.js'),
    'trace',
    'home',
    '--project',
    'examples/harbour',
    '--html',
    file,
  ]);
  await picture('trace', `file://${file}`);
  rmSync(file);
}

if (isWanted('editor')) editor();

const folder = mkdtempSync(join(tmpdir(), 'pictures-'));
try {
  cpSync('examples/prototype', join(folder, 'prototype'), { recursive: true });
  if (isWanted('repeats')) {
    spawnSync(
      'node',
      [
        resolve('packages/zip-loom/dist/command/main.js'),
        'repeats',
        'prototype',
        '--min',
        '20',
        '--html',
        'repeats.html',
      ],
      {
        cwd: folder,
      },
    );
    await picture('repeats', `file://${join(folder, 'repeats.html')}`);
  }
  cpSync('examples/starter', join(folder, 'log'), { recursive: true });
  terminal('adopt', folder, ['adopt prototype --dry-run']);
  terminal('new', folder, [
    `!printf '\\033[1;34m$\\033[0m npm create zip-loom harbour-log\\n'; node ${resolve('packages/create-zip-loom/dist/main.js')} harbour-log; echo`,
    'new page berths/list --project harbour-log',
    'render about --project harbour-log',
  ]);
  writeFileSync(
    join(folder, 'log/templates/partials/log-entry.html'),
    '<meta (takes entry: { id: number, boat: string, remark?: string, at: string })>\n<b>${entry.baot}</b> <time datetime=${entry.at}>${dateTime(entry.at)}</time>\n<p (if entry.remark)>${entri.remark}</p>\n',
  );
  writeFileSync(
    join(folder, 'log/templates/pages/log.html'),
    '<meta (takes entries)>\n<h1>Who came in</h1>\n<log-entry (for entry of entries) entry=${entry}></log-entry>\n',
  );
  const failing = start(['--input-type=module', '-e', failingSite(join(folder, 'log'))]);
  try {
    await picture('error-page', await failing.address);
  } finally {
    failing.stop();
  }
  terminal('check', join(folder, 'log'), [
    'check --no-types',
    '!sed -i s/entri.remark/entry.remark/ templates/partials/log-entry.html',
    'samples',
    'build --out build',
    'trace about',
  ]);
  spawnSync('node', [resolve('packages/zip-loom/dist/command/main.js'), 'adopt', 'prototype', '--out', '.'], {
    cwd: folder,
  });
  const git = (...args) =>
    spawnSync('git', ['-c', 'user.name=Harbour', '-c', 'user.email=harbour@tern.example', ...args], { cwd: folder });
  git('init', '-q');
  git('add', '-A');
  git('commit', '-qm', 'Adopt the pages');
  const layout = join(folder, 'templates/layouts/site-layout.html');
  spawnSync('sed', ['-i', 's/channel 12/channel 11/', layout]);
  spawnSync('bash', ['-c', `grep -rl 'channel 12' ${folder}/templates | xargs -r sed -i 's/channel 12/channel 11/'`]);
  terminal('compare', folder, ['compare']);
} finally {
  rmSync(folder, { recursive: true, force: true });
  await browser.close();
}

/** A site in development whose page calls a template with a mistake. */
function failingSite(folder) {
  const dist = (name) => JSON.stringify(resolve('packages/zip-loom/dist', name));
  return `import { createServer } from 'node:http';
import { createLoom } from ${dist('zip-loom.on-node.js')};
import { nodeListener } from ${dist('zip-loom.node.js')};
process.chdir(${JSON.stringify(folder)});
const loom = await createLoom({ templates: 'templates', layouts: { '**': 'site-layout' }, assets: 'public', mode: 'development', logger: false });
const entry = { id: 1, boat: 'Quiet Tern', remark: 'Came in at high water.', at: '2026-06-12T13:20:00Z' };
const handler = (request) => loom.respond(request, 'log', { entries: [entry] });
const server = createServer(nodeListener(handler)).listen(0, () => console.log('http://localhost:' + server.address().port + '/'));`;
}

/** A template of the harbour in an editor, with an argument that is missing and a name that is being written. */
function editor() {
  const project = resolve('examples/.picture');
  const file = 'templates/pages/berths/list.html';
  cpSync('examples/harbour', project, { recursive: true });
  try {
    const text = readFileSync(join(project, file), 'utf8');
    const wrong = text.replace(/^( *)(.*<berth-card berth=.*)$/m, (_line, indent, call) => {
      return `${indent}${call.replace('berth-card berth=', 'berth-card brth=')}\n${indent}<berth-></berth->`;
    });
    writeFileSync(join(project, file), wrong);
    const line = wrong.split('\n').findIndex((one) => one.includes('<berth->')) + 1;
    const done = join(project, 'done');
    writeFileSync(join(project, 'init.lua'), editorSettings(project, line, done));
    inWindow('editor', `cd ${project}; nvim -u init.lua ${file}`, done);
  } finally {
    rmSync(project, { recursive: true, force: true });
  }
}

/** Settings of Neovim that start the language server, and ask for what can be written. */
function editorSettings(project, line, done) {
  return `
vim.opt.number = true
vim.opt.signcolumn = 'yes'
vim.opt.swapfile = false
vim.opt.completeopt = { 'menuone', 'noselect' }
vim.cmd('highlight! link SignColumn Normal')
vim.cmd('highlight Pmenu ctermbg=238 ctermfg=15')
local client = vim.lsp.start_client({
  name = 'zip_loom',
  cmd = { 'node', '${resolve('packages/zip-loom/dist/command/main.js')}', 'language-server', '--stdio' },
  root_dir = '${project}',
})
vim.api.nvim_create_autocmd('FileType', {
  pattern = 'html',
  callback = function()
    vim.lsp.buf_attach_client(0, client)
    vim.bo.omnifunc = 'v:lua.vim.lsp.omnifunc'
    local keys = function(text)
      vim.api.nvim_feedkeys(vim.api.nvim_replace_termcodes(text, true, false, true), 't', true)
    end
    vim.defer_fn(function() keys('${line}G0f-a') end, 6000)
    vim.defer_fn(function() keys('<C-x><C-o>') end, 8000)
    vim.defer_fn(function() vim.fn.writefile({}, '${done}') end, 11000)
  end,
})
`;
}

/** Runs commands in a terminal window, and takes a picture of it. */
function terminal(name, cwd, commands) {
  if (!isWanted(name)) return;
  const script = join(cwd, '.picture.sh');
  const done = join(cwd, '.picture.done');
  const lines = commands.map((one) =>
    one.startsWith('!') ? one.slice(1) : `printf '\\033[1;34m$\\033[0m npx zip-loom ${one}\\n'; ${loom} ${one}; echo`,
  );
  writeFileSync(script, `cd ${cwd}\n${lines.join('\n')}\nprintf '\\033[?25l'; touch ${done}; sleep 600\n`);
  inWindow(name, `bash ${script}`, done);
  rmSync(script);
}

/** A terminal window of about 1280x800 with a program, and a picture of it when a file is there. */
function inWindow(name, command, done) {
  windows += 1;
  const env = { ...process.env, DISPLAY: `:${90 + windows}`, LANG: 'C.UTF-8', TERM: 'xterm-256color' };
  const server = spawn('Xvfb', [env.DISPLAY, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
  waitFor(`/tmp/.X11-unix/X${90 + windows}`);
  const options = [
    '-fa',
    'DejaVu Sans Mono',
    '-fs',
    '11',
    '-bg',
    '#12181d',
    '-fg',
    '#e8eef2',
    '-geometry',
    '142x44+0+0',
  ];
  const colours = [
    '1: #ff9c85',
    '2: #8fd19a',
    '9: #ff9c85',
    '10: #8fd19a',
    '11: #f0d58a',
    '12: #7fd0de',
    '13: #d9a8f0',
    '14: #7fd0de',
  ].flatMap((one) => ['-xrm', `XTerm*color${one}`]);
  colours.push('-xrm', 'XTerm*internalBorder: 14');
  const window = spawn('xterm', [...options, ...colours, '+sb', '-e', 'bash', '-c', command], { env, stdio: 'ignore' });
  waitFor(done);
  const taken = spawnSync('import', ['-window', 'root', join(out, `${name}.png`)], { env, encoding: 'utf8' });
  window.kill();
  server.kill();
  rmSync(done);
  if (taken.status !== 0) throw new Error(`No picture of ${name}: ${taken.stderr}`);
  console.log(name);
}

/** Until a file is there, and a moment longer. */
function waitFor(file) {
  const script = `for i in $(seq 120); do [ -e ${file} ] && sleep 1 && exit 0; sleep 0.5; done; exit 1`;
  if (spawnSync('bash', ['-c', script]).status !== 0) throw new Error(`${file} did not come.`);
}
