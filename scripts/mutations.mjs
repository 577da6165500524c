/**
 * `npm run mutations [-- --quick] [names]`: takes each rule of escaping and each refusal away in turn, in copies of the sources, and shows that a
 * test fails for it. Each rule is tried with the tests that it concerns first; several rules are tried at once. Exit code 1 when a rule
 * can go unnoticed. With `--quick` only the tests that a rule concerns are run: a rule that they miss may be noticed by others.
 * The file that noticed a rule is remembered, and tried first in the next run.
 */

import { spawn } from 'node:child_process';
import {
  cpSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { mutations } from './mutation-rules.mjs';
import { jest, run as runHere } from './run.mjs';
import { requireNode, requirePackages } from './setup.mjs';

/** Folders of sources, and the tests that know their rules best. The first that fits counts. */
const concerns = [
  [/^render\/helpers\//, ['tests/runtime/helpers', 'tests/fuzz/costs']],
  [
    /^(?:render|kernel)\/(?:form-elements|open-forms)/,
    ['tests/forms/tokens', 'tests/forms/lists', 'tests/fuzz/submissions', 'tests/fuzz/structure'],
  ],
  [/^render\/(?:regions|pending)/, ['tests/updates/alone', 'tests/loom/waiting', 'tests/updates/answers']],
  [/^loom\/render\/(?:quiet-data|data-values)/, ['tests/loom/misbehaving']],
  [/^kernel\/mounting|^compiler\/lower\/mounting/, ['tests/loom/base']],
  [/^kernel\/url/, ['tests/loom/values', 'tests/loom/code-places', 'tests/fuzz/addresses', 'tests/browser/built']],
  [/^render\/urls/, ['tests/loom/values', 'tests/loom/data', 'tests/forms/tokens', 'tests/fuzz/addresses']],
  [/^render\/text/, ['tests/loom/values', 'tests/loom/data', 'tests/loom/waiting', 'tests/loom/misbehaving']],
  [
    /^(?:render|kernel)\//,
    [
      'tests/loom/values',
      'tests/loom/code-places',
      'tests/forms/tokens',
      'tests/forms/binding',
      'tests/fuzz/addresses',
    ],
  ],
  [/^compiler\/lower\/(?:page-sources|content-policy)/, ['tests/loom/policy']],
  [/^compiler\/lower\/(?:attribute-owner|siblings)/, ['tests/fuzz/templates']],
  [/^compiler\/set\/partials/, ['tests/loom/calls', 'tests/loom/guesses']],
  [/^compiler\/(?:set|code|compilation)/, ['tests/loom/guesses', 'tests/loom/misbehaving', 'tests/forms/exchange']],
  [/^language\/literal-markup|^analysis\/adopting/, ['tests/cli/adopt-foreign']],
  [
    /^language\/(?:expressions|parser|whitespace)/,
    ['tests/fuzz/templates', 'tests/loom/code-places', 'tests/fuzz/costs'],
  ],
  [/^(?:compiler|language)\//, ['tests/loom/code-places', 'tests/loom/values']],
  [/^security\/flash/, ['tests/forms/exchange']],
  [/^security\/local-host/, ['tests/loom/errors']],
  [/^security\/(?:base64url|signed-payload)/, ['tests/forms/proof', 'tests/forms/kept-files']],
  [/^security\/tokens/, ['tests/channels/channels', 'tests/forms/tokens']],
  [/^security\//, ['tests/forms/tokens', 'tests/forms/exchange', 'tests/loom/options']],
  [/^forms\/uploads\/file-types/, ['tests/forms/uploads', 'tests/fuzz/costs']],
  [
    /^forms\/uploads\//,
    ['tests/forms/kept-files', 'tests/forms/proof', 'tests/forms/uploads', 'tests/forms/file-fields'],
  ],
  [/^forms\/reading\/(?:coerce|url-encoded|entries)/, ['tests/forms/reading', 'tests/fuzz/costs', 'tests/forms/lists']],
  [/^forms\/reading\/(?:steps?|conflicts)/, ['tests/forms/steps']],
  [/^forms\/reading\/(?:shown-fields|reading)/, ['tests/forms/proof', 'tests/forms/choices']],
  [/^forms\/schema\/raw/, ['tests/forms/models', 'tests/forms/lists']],
  [/^forms\/binding\/form-view/, ['tests/fuzz/costs']],
  [/^forms\/binding\/controls/, ['tests/forms/binding', 'tests/client/merge']],
  [/^forms\//, ['tests/forms/lists', 'tests/forms/definitions', 'tests/forms/schemas', 'tests/forms/reading']],
  [/^updates\/change-markup/, ['tests/updates/changes', 'tests/fuzz/costs']],
  [/^protocol\//, ['tests/updates/folding', 'tests/updates/answers', 'tests/client/many-regions']],
  [/^updates\//, ['tests/updates/folding', 'tests/updates/answers', 'tests/updates/alone']],
  [
    /^loom\/\w+\/(?:submission|sent-body|kept-files)/,
    ['tests/forms/proof', 'tests/forms/tokens', 'tests/forms/steps', 'tests/forms/kept-files'],
  ],
  [
    /^loom\/\w+\/content-policy|^loom\/\w+\/page-reply/,
    ['tests/loom/policy', 'tests/forms/tokens', 'tests/loom/locales'],
  ],
  [
    /^loom\/\w+\/answer-page/,
    ['tests/updates/answers', 'tests/updates/alone', 'tests/loom/policy', 'tests/updates/late'],
  ],
  [/^loom\/\w+\/data-values/, ['tests/forms/exchange', 'tests/loom/misbehaving']],
  [/^loom\/\w+\/changes/, ['tests/updates/changes']],
  [/^loom\/\w+\/data-words/, ['tests/loom/errors']],
  [/^loom\/\w+\/development-notes/, ['tests/loom/development-notes']],
  [
    /^loom\/\w+\/exchange/,
    ['tests/channels/channels', 'tests/forms/exchange', 'tests/forms/steps', 'tests/forms/kept-files'],
  ],
  [/^loom\/\w+\/(?:locales|languages)/, ['tests/loom/locales']],
  [/^loom\//, ['tests/loom/misbehaving', 'tests/loom/data', 'tests/loom/policy', 'tests/updates/late']],
  [/^node\/upload-folder/, ['tests/forms/stores', 'tests/forms/uploads', 'tests/forms/kept-files']],
  [/^node\/write-templates/, ['tests/cli/links']],
  [/^s3\//, ['tests/forms/stores']],
  [/^node\//, ['tests/node/listener', 'tests/node/servers', 'tests/node/node', 'tests/node/light-objects']],
  [/^client\/(?:answers|form-controls|requests)/, ['tests/client/proof', 'tests/client/forms', 'tests/client/rules']],
  [/^client\//, ['tests/client/merge']],
  [/^commands\//, ['tests/cli/gallery']],
  [/^diagnostics\//, ['tests/loom/misbehaving', 'tests/loom/options', 'tests/fuzz/templates']],
];

/** The rest, for rules that those do not notice: quick ones first. */
const others = [
  ['diagnostics', 'language', 'runtime', 'loom'],
  ['updates', 'forms'],
  ['node/', 'channels', 'testing', 'vite'],
  ['fuzz/addresses', 'fuzz/structure', 'fuzz/submissions', 'fuzz/templates', 'fuzz/costs'],
  ['client/'],
].map((group) => group.map((name) => `tests/${name}`));

/** Milliseconds after which a file of tests counts as failed: code that does not end is noticed by that. */
const limit = 240_000;

/** The same for many files. */
const longLimit = 900_000;

/** Where the test file that noticed a rule is kept between runs: it saves time, and proves nothing. */
const memory = '.cache/mutations.json';

requireNode();
requirePackages();
runHere('node', ['scripts/build.mjs']);
const isQuick = process.argv.includes('--quick');
const wanted = process.argv.slice(2).filter((one) => one !== '--quick');
const chosen = mutations.filter(([name]) => wanted.length === 0 || wanted.includes(name));
const queue = [...chosen];
/** Whether tests pass in a copy from which nothing is taken away, by their names. */
const untouched = new Map();
const remembered = existsSync(memory) ? JSON.parse(readFileSync(memory, 'utf8')) : {};
let unnoticed = 0;
let done = 0;
const started = Date.now();
await Promise.all(Array.from({ length: Math.min(availableParallelism(), queue.length) }, work));
console.log(
  `${chosen.length} rules taken away, ${unnoticed} unnoticed, ${Math.round((Date.now() - started) / 60_000)} minutes`,
);
process.exitCode = unnoticed > 0 ? 1 : 0;

/** Tries one rule after another in a copy of its own. */
async function work() {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-mutations-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  for (const name of ['packages', 'tests', 'examples', 'scripts', 'docs', 'extension', 'build'])
    cpSync(name, join(folder, name), { recursive: true });
  for (const name of readdirSync('.').filter((one) => /\.(?:m?js|json|md)$/.test(one)))
    cpSync(name, join(folder, name));
  mkdirSync(join(folder, 'node_modules'));
  // Links to our packages are relative: here they lead to the copies.
  for (const name of readdirSync('node_modules'))
    if (lstatSync(join('node_modules', name)).isSymbolicLink())
      symlinkSync(readlinkSync(join('node_modules', name)), join(folder, 'node_modules', name));
    else symlinkSync(resolve('node_modules', name), join(folder, 'node_modules', name));
  for (let rule = queue.shift(); rule; rule = queue.shift()) {
    const begun = Date.now();
    const outcome = await tried(folder, rule);
    if (!outcome.startsWith('noticed')) unnoticed++;
    const seconds = `${Math.round((Date.now() - begun) / 1000)} s`;
    console.log(`${String(++done).padStart(4)} of ${chosen.length} ${seconds.padStart(6)}  ${outcome} ${rule[0]}`);
  }
}

/** Takes a rule away, and runs tests until one fails. */
async function tried(folder, [name, file, found, instead]) {
  const paths = readdirSync(join(folder, 'packages'), { recursive: true }).filter(
    (path) => basename(path) === file && !path.includes('/dist/'),
  );
  const places = paths.flatMap((path) =>
    Array(readFileSync(join(folder, 'packages', path), 'utf8').split(found).length - 1).fill(path),
  );
  if (places.length !== 1) return `STALE: “${found}” is ${places.length} times in ${file}; it should be there once:`;
  const path = join(folder, 'packages', places[0]);
  const place = places[0].replace(/^[\w-]+\/src\//, '');
  const source = readFileSync(path, 'utf8');
  let noticedBy;
  const build = async () => (await run(folder, ['scripts/build.mjs', '--untyped'])).isGood;
  writeFileSync(
    path,
    source.replace(found, () => instead),
  );
  try {
    if (!(await build())) return 'NOT BUILT, so no test has noticed:';
    const own = concerns.find(([folders]) => folders.test(place))?.[1] ?? [];
    const known = remembered[name] ? [remembered[name]] : [];
    for (const files of [...known, ...own.map((one) => [one]), ...(isQuick ? [] : others)])
      noticedBy ??= await failing(folder, files);
    if (!noticedBy) return isQuick ? 'UNNOTICED by its own tests' : 'UNNOTICED';
  } finally {
    writeFileSync(path, source);
  }
  // Tests that fail without the change too have noticed nothing.
  const key = noticedBy.join(' ');
  if (!untouched.has(key)) untouched.set(key, (await build()) && (await failing(folder, noticedBy)) === undefined);
  if (!untouched.get(key)) return `FAILS ANYWAY (${key}):`;
  remembered[name] = noticedBy;
  mkdirSync('.cache', { recursive: true });
  writeFileSync(memory, JSON.stringify(remembered, null, 1));
  return 'noticed';
}

/** The first file of tests that fails, as far as that is known; `undefined` where all pass. */
async function failing(folder, files) {
  const time = files.length === 1 ? limit : longLimit;
  const { isGood, output } = await run(folder, [...jest, '--bail', '--runInBand', ...files], time);
  const [, file] = /^FAIL (\S+)/m.exec(output) ?? [];
  return isGood ? undefined : file === undefined ? files : [file];
}

/** Runs a program of Node: whether it ends well and in time, and what it prints. */
function run(cwd, args, timeout = limit) {
  return new Promise((resolve) => {
    const program = spawn(process.execPath, args, { cwd, timeout, killSignal: 'SIGKILL' });
    let output = '';
    for (const stream of [program.stdout, program.stderr]) stream.on('data', (text) => (output += text));
    program.once('close', (code) => resolve({ isGood: code === 0, output }));
  });
}
