/**
 * `node scripts/sizes.mjs`: what browsers load, gzipped, beside its budget; fails where one is larger. A page that renders built templates
 * and answers nothing gets neither forms nor cryptography.
 */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';
import { zipLoom } from '../packages/zip-loom/dist/vite/index.js';

/** Bytes, gzipped. */
const budgets = {
  'client.min.js': 15_500,
  'client-with-uploads.min.js': 17_200,
  'client-channels.min.js': 2_300,
  'client-changes.min.js': 2_100,
  'client-dialogs.min.js': 3_900,
  'client-files.min.js': 900,
  'client-long-lists.min.js': 1_000,
  'zip-loom/built': 12_000,
  'one partial, rendered by a page': 12300,
  'zip-loom/client': 16_500,
  'zip-loom/client/inspector': 19_500,
  'zip-loom/client/uploads': 2_400,
};

/** Modules of the package that render nothing. */
const forServers = /uploaded-file|(?<!late-)answering|noble/;

const manifest = JSON.parse(readFileSync('packages/zip-loom/package.json', 'utf8'));
mkdirSync('build', { recursive: true });
const folder = mkdtempSync(resolve('build/sizes-'));
let isTooLarge = false;
try {
  for (const [name, budget] of Object.entries(budgets)) {
    const { code, modules } = name.endsWith('.js')
      ? { code: readFileSync(join('packages/zip-loom/dist', name)), modules: [] }
      : await bundled(name.startsWith('zip-loom') ? entryOf(name) : pageWithPartial());
    const size = gzipSync(code).length;
    const extra = /built|partial/.test(name) ? modules.filter((one) => forServers.test(one)) : [];
    const isWrong = size > budget || extra.length > 0;
    isTooLarge ||= isWrong;
    const said = extra.length > 0 ? `  holds ${extra.join(', ')}` : '';
    console.log(
      `${name.padEnd(28)} ${String(size).padStart(7)} of ${String(budget).padStart(7)}${isWrong ? '  too large' : ''}${said}`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
if (isTooLarge) process.exit(1);

/** An entry with all that it exports. */
function entryOf(name) {
  const { browser, default: target } = manifest.exports[name.replace('zip-loom', '.')];
  const path = resolve('packages/zip-loom', browser?.production ?? target);
  return { 'entry.js': `import * as all from ${JSON.stringify(path)};\nglobalThis.all = all;\n` };
}

/** A page that renders a partial with a value, a URL, a list of classes and a condition. */
function pageWithPartial() {
  return {
    'entry.js': `import { createBuiltLoom } from 'zip-loom/built';
import { built } from './templates/partials/berth-card.html';
const loom = await createBuiltLoom({ built });
document.body.innerHTML = await loom.renderTemplate('berth-card', { berth: { id: 1, name: 'A1', free: true } });
`,
    'templates/partials/berth-card.html': `<meta (takes berth: { id: number, name: string, free: boolean }, compact = false)>
<article class=\${['berth', compact && 'compact']}>
  <h2><a href="/berths/\${berth.id}">\${berth.name}</a></h2>
  <p (if berth.free)>Free</p>
</article>
`,
  };
}

/** What a browser gets with the first request, as Vite bundles it. */
async function bundled(files) {
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  const file = join(folder, 'entry.js');
  const result = await build({
    root: folder,
    configFile: false,
    logLevel: 'error',
    plugins: files['entry.js'].includes('templates/') ? [zipLoom({ types: false })] : [],
    build: { write: false, minify: true, modulePreload: false, rollupOptions: { input: file } },
  });
  const chunks = [result].flat()[0].output.filter((one) => one.type === 'chunk');
  const first = chunks.find((one) => one.isEntry);
  const loaded = [first, ...first.imports.map((one) => chunks.find((chunk) => chunk.fileName === one))];
  return {
    code: loaded.map((one) => one.code).join(''),
    modules: loaded
      .flatMap((one) => Object.keys(one.modules))
      .map((one) => one.replace(/^.*\/(?=dist|node_modules)/, '')),
  };
}
