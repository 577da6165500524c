/** `npm run errors`: writes docs/errors.md from the catalogues in the code. With `--check` it only tells whether the page is current. */
import { readFileSync, writeFileSync } from 'node:fs';
import { run } from './run.mjs';

// The package has its entries alone: the catalogues are in the rooms.
run('npx', ['tsc', '-p', 'tsconfig.bench.json']);
const { commandDiagnostic } = await import('../build/bench/packages/zip-loom-tools/src/console/diagnostics.js');
const { checkingDiagnostic } = await import('../build/bench/packages/zip-loom-tools/src/checking/diagnostics.js');
const { templateDiagnostic } = await import('../build/bench/packages/zip-loom/src/compiler/diagnostics.js');
const { formDiagnostic } = await import('../build/bench/packages/zip-loom/src/forms/diagnostics.js');
const { requestDiagnostic } = await import('../build/bench/packages/zip-loom/src/http/diagnostics.js');
const { readingDiagnostic } = await import('../build/bench/packages/zip-loom/src/language/diagnostics.js');
const { loomDiagnostic } = await import('../build/bench/packages/zip-loom/src/loom/diagnostics.js');
const { answerDiagnostic } = await import('../build/bench/packages/zip-loom/src/loom/respond/answer-diagnostics.js');
const { nodeDiagnostic } = await import('../build/bench/packages/zip-loom/src/node/diagnostics.js');
const { pageDiagnostic } = await import('../build/bench/packages/zip-loom/src/kernel/diagnostics.js');
const { renderDiagnostic } = await import('../build/bench/packages/zip-loom/src/render/diagnostics.js');
const { optionDiagnostic } = await import('../build/bench/packages/zip-loom/src/diagnostics/option-diagnostics.js');
const { markupDiagnostic } = await import('../build/bench/packages/zip-loom-tools/src/analysis/markup/diagnostics.js');
const { editorDiagnostic } = await import('../build/bench/packages/zip-loom-tools/src/analysis/editor/diagnostics.js');
const { typeDiagnostic } = await import('../build/bench/packages/zip-loom-tools/src/analysis/types/diagnostics.js');
const { channelDiagnostic } = await import('../build/bench/packages/zip-loom/src/channels/diagnostics.js');
const { updateDiagnostic } = await import('../build/bench/packages/zip-loom/src/updates/diagnostics.js');
const { packageDiagnostic } = await import('../build/bench/packages/zip-loom/src/diagnostics/package-diagnostics.js');
const { securityDiagnostic } = await import('../build/bench/packages/zip-loom/src/security/diagnostics.js');

const page = 'docs/errors.md';

const parts = [
  ['While a template is read', 'Found by `check`, and when a page is rendered.', readingDiagnostic.wordings],
  [
    'Between templates, and in places of values',
    'Found by `check`, and when a page is rendered.',
    templateDiagnostic.wordings,
  ],
  ['HTML that browsers take otherwise', 'Found by `check` alone: the page can be sent.', markupDiagnostic.wordings],
  ['Types', 'Found by `check`, by the project’s own TypeScript.', typeDiagnostic.wordings],
  [
    'While a page is rendered',
    'With the place in the template and the calls that led there. Warnings are logged, and the page goes on.',
    { ...renderDiagnostic.wordings, ...pageDiagnostic.wordings, ...formDiagnostic.wordings },
  ],
  [
    'When a loom is called',
    'Thrown by `createLoom`, `render` and the like; warnings are logged.',
    {
      ...optionDiagnostic.wordings,
      ...packageDiagnostic.wordings,
      ...requestDiagnostic.wordings,
      ...loomDiagnostic.wordings,
      ...answerDiagnostic.wordings,
      ...updateDiagnostic.wordings,
      ...channelDiagnostic.wordings,
      ...securityDiagnostic.wordings,
    },
  ],
  ['Under Node', 'Files and folders.', nodeDiagnostic.wordings],
  ['In an editor', 'When something is to have another name.', editorDiagnostic.wordings],
  ['On the command line', 'Exit code 2.', { ...checkingDiagnostic.wordings, ...commandDiagnostic.wordings }],
];

const cell = (text) => text.replace(/([\\|<>*_$`])/g, '\\$1').replace(/\s+/g, ' ');

function rows(code, { severity = 'error', message, hint, examples }) {
  return examples.map(
    (facts) =>
      `| \`${code}\`${severity === 'error' ? '' : ', a warning'} | ${cell(message(facts))} | ${cell(hint(facts))} |`,
  );
}

const sections = parts.map(([title, where, wordings]) => {
  const all = Object.entries(wordings).sort(([a], [b]) => (a < b ? -1 : 1));
  const table = all.flatMap(([code, wording]) => rows(code, wording));
  return `## ${title}\n\n${where}\n\n| code | what is wrong | what to do |\n|---|---|---|\n${table.join('\n')}\n`;
});
const text = `# Messages

Every message has a stable code, says what is wrong and what to do. An error’s \`message\` has all of it: file, line and column, the line of
the template, what is wrong and what to do; \`error.diagnostic\` has the same as plain data, with its facts. This page is made from the
examples in the code: \`npm run errors\`.

Codes follow one pattern for each kind of fault: \`duplicate-…\`, \`missing-…\`, \`unknown-…\`, \`invalid-…\` (of the wrong form), \`refused-…\`
(well formed, but not allowed) and \`unreadable-…\`.

${sections.join('\n')}`;

if (!process.argv.includes('--check')) {
  writeFileSync(page, text);
} else if (readFileSync(page, 'utf8') !== text) {
  console.error(`${page} is not what the code says. Run: npm run errors`);
  process.exit(1);
}
