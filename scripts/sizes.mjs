/**
 * `node scripts/sizes.mjs`: what browsers load, gzipped, beside its budget; fails where one is larger. A page that renders built templates
 * and answers nothing gets neither forms nor cryptography.
 */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';

/** Bytes, gzipped. */
const budgets = {
  'client.min.js': 15_500,
  'client-with-uploads.min.js': 17_200,
  'client-channels.min.js': 2_300,
  'client-changes.min.js': 2_100,
  'client-dialogs.min.js': 3_900,
  'client-long-lists.min.js': 1_000,
  'zip-loom/built': 19_500,
  'zip-loom/client': 16_500,
  'zip-loom/client/inspector': 19_500,
  'zip-loom/client/uploads': 2_400,
};

/** Modules of the package that render nothing. */
const forServers = /uploaded-file|answering|noble/;

const manifest = JSON.parse(readFileSync('package.json', 'utf8'));
mkdirSync('build', { recursive: true });
const folder = mkdtempSync(resolve('build/sizes-'));
let isTooLarge = false;
try {
  for (const [name, budget] of Object.entries(budgets)) {
    const { code, modules } = name.endsWith('.js')
      ? { code: readFileSync(join('dist', name)), modules: [] }
      : await bundled(name);
    const size = gzipSync(code).length;
    const extra = name === 'zip-loom/built' ? modules.filter((one) => forServers.test(one)) : [];
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

/** An entry as a browser gets it with the first request, with all that it exports. */
async function bundled(name) {
  const file = join(folder, 'entry.js');
  const { default: target } = manifest.exports[name.replace('zip-loom', '.')];
  const path = resolve(target.default ?? target);
  writeFileSync(file, `import * as all from ${JSON.stringify(path)};\nglobalThis.all = all;\n`);
  const result = await build({
    root: folder,
    configFile: false,
    logLevel: 'error',
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
