/**
 * `npm run api`: writes what each entry of the package exports into `docs/api`, one report for each, and the reference that is made of its
 * doc comments into `docs/reference`; with `--check`, tells where those are not what is written there, so that no name changes unseen.
 */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { CompilerState, Extractor, ExtractorConfig, ExtractorLogLevel } from '@microsoft/api-extractor';
import { withOptionTables } from './options.mjs';
import { entryPointOf, referencePage } from './reference.mjs';

const isCheck = process.argv.includes('--check');
const out = resolve('docs/api');
const reference = resolve('docs/reference');
const drafts = resolve('.cache/api');
const manifest = JSON.parse(readFileSync('packages/zip-loom/package.json', 'utf8'));

/** Entries with types: their names, and the files of those. */
const entries = Object.entries(manifest.exports).flatMap(([name, value]) => {
  const types = typeof value === 'string' ? undefined : (value.types ?? value.node?.types);
  return types ? [{ name: name === '.' ? 'zip-loom' : `zip-loom/${name.slice(2)}`, types }] : [];
});

rmSync(drafts, { recursive: true, force: true });
mkdirSync(drafts, { recursive: true });
mkdirSync(out, { recursive: true });
mkdirSync(reference, { recursive: true });
/** What users have no name for: keys that no data has, and what built templates hand to the library. */
const inside = new Set([
  ...['augmented', 'html', 'url'],
  ...['Render', 'TemplateFacts'],
  // `LoomOptions` of zip-loom, and `BuiltLoomOptions` of zip-loom/built.
  'BuiltLoomOptionsOnNode',
  'NodeLoomOptions',
]);
const exported = new Set();
/** Names of types that a public signature needs → where. */
const needed = new Map();
const changed = [];
/** Functions without an example. */
const lacking = [];
// One program of TypeScript for all entries: each would take seconds.
const compilerState = CompilerState.create(settingsOf(entries[0]), {
  additionalEntryPoints: entries.map(({ types }) => resolve('packages/zip-loom', types)),
});
for (const entry of entries) {
  const { name } = entry;
  const file = `${name.replaceAll('/', '-')}.api.md`;
  Extractor.invoke(settingsOf(entry), {
    compilerState,
    localBuild: true,
    messageCallback: (message) => {
      message.handled = message.logLevel !== ExtractorLogLevel.Error;
    },
  });
  const report = readFileSync(join(drafts, file), 'utf8').replaceAll('\r\n', '\n');
  keep(join(out, file), report);
  // What compiled templates import is for them alone.
  if (name === 'zip-loom/runtime') continue;
  const { page, withoutExample } = referencePage(name, join(drafts, `${file}.json`));
  keep(join(reference, `${name.replaceAll('/', '-')}.md`), page);
  noteNames(name, JSON.parse(readFileSync(join(drafts, `${file}.json`), 'utf8')).members[0]);
  lacking.push(...withoutExample.map((one) => `${one} of ${name}`));
}
const modelOf = (name) => entryPointOf(join(drafts, `${name.replaceAll('/', '-')}.api.md.json`));
keep(resolve('docs/options.md'), withOptionTables(readFileSync('docs/options.md', 'utf8'), modelOf));
const list = entries
  .filter(({ name }) => name !== 'zip-loom/runtime')
  .map(({ name }) => `- [\`${name}\`](${name.replaceAll('/', '-')}.md)`);
keep(join(reference, 'README.md'), `# Reference\n\nWhat each entry of the package exports.\n\n${list.join('\n')}\n`);
const missing = [...needed].filter(([name]) => !exported.has(name) && !inside.has(name));
if (missing.length > 0) {
  console.error(
    `No entry exports a type that a public signature names: ${missing.map(([name, place]) => `${name} (${place})`).join(', ')}.`,
  );
  process.exit(1);
}
if (lacking.length > 0) {
  console.error(`A doc comment needs an example: ${lacking.join(', ')}.`);
  process.exit(1);
}
if (isCheck && changed.length > 0) {
  console.error(
    `What the package exports has changed: ${changed.join(', ')}. Look at it, and write it down with “npm run api”.`,
  );
  process.exit(1);
}
console.log(isCheck ? 'The entries export what is written down.' : `Written: ${changed.join(', ') || 'nothing new'}`);

/** What is asked of the extractor for an entry. */
function settingsOf({ name, types }) {
  const file = `${name.replaceAll('/', '-')}.api.md`;
  return ExtractorConfig.prepare({
    configObjectFullPath: undefined,
    packageJsonFullPath: resolve('packages/zip-loom/package.json'),
    configObject: {
      projectFolder: resolve('packages/zip-loom'),
      mainEntryPointFilePath: resolve('packages/zip-loom', types),
      compiler: {
        overrideTsconfig: {
          compilerOptions: {
            target: 'es2022',
            module: 'nodenext',
            moduleResolution: 'nodenext',
            skipLibCheck: true,
            lib: ['es2023', 'dom', 'dom.iterable'],
            types: ['node'],
          },
          files: [resolve('packages/zip-loom', types)],
        },
      },
      apiReport: { enabled: true, reportFileName: file, reportFolder: drafts, reportTempFolder: join(drafts, 'temp') },
      docModel: { enabled: true, includeForgottenExports: true, apiJsonFilePath: join(drafts, `${file}.json`) },
      dtsRollup: { enabled: false },
      tsdocMetadata: { enabled: false },
      messages: {
        compilerMessageReporting: { default: { logLevel: 'none' } },
        extractorMessageReporting: { default: { logLevel: 'none' } },
        tsdocMessageReporting: { default: { logLevel: 'none' } },
      },
    },
  });
}

/** What an entry exports, and what its signatures name besides: a local name is marked so in its reference. */
function noteNames(entry, { members }) {
  const isLocal = ({ canonicalReference = '' }) =>
    canonicalReference.includes('!~') && !canonicalReference.endsWith(':var');
  const look = (member, place) => {
    for (const token of member.excerptTokens ?? [])
      if (isLocal(token)) needed.set(token.text.replace(/_\d+$/, ''), place);
    for (const inner of member.members ?? []) look(inner, `${place}.${inner.name ?? inner.kind}`);
  };
  for (const member of members.filter((one) => !isLocal(one))) {
    exported.add(member.name);
    look(member, `${entry} ${member.name}`);
  }
}

function keep(file, text) {
  if (existsSync(file) && readFileSync(file, 'utf8') === text) return;
  changed.push(relative(resolve('.'), file));
  if (!isCheck) writeFileSync(file, text);
}
