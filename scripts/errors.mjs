/** `npm run errors`: writes docs/errors.md from the catalogues in the code. With `--check` it only tells whether the page is current. */
import { readFileSync, writeFileSync } from 'node:fs';
import { commandDiagnostic } from '../dist/cli/diagnostics.js';
import { templateDiagnostic } from '../dist/compiler/diagnostics.js';
import { formDiagnostic } from '../dist/forms/diagnostics.js';
import { readingDiagnostic } from '../dist/language/diagnostics.js';
import { loomDiagnostic } from '../dist/loom/diagnostics.js';
import { nodeDiagnostic } from '../dist/node/diagnostics.js';
import { renderDiagnostic } from '../dist/runtime/diagnostics.js';
import { securityDiagnostic } from '../dist/security/diagnostics.js';

const page = 'docs/errors.md';

const parts = [
  ['While a template is read', 'Found by `check`, and when a page is rendered.', readingDiagnostic.wordings],
  [
    'Between templates, and in places of values',
    'Found by `check`, and when a page is rendered.',
    templateDiagnostic.wordings,
  ],
  [
    'While a page is rendered',
    'With the place in the template and the calls that led there. Warnings are logged, and the page goes on.',
    { ...renderDiagnostic.wordings, ...formDiagnostic.wordings },
  ],
  [
    'When a loom is called',
    'Thrown by `createLoom`, `render` and the like; warnings are logged.',
    { ...loomDiagnostic.wordings, ...securityDiagnostic.wordings },
  ],
  ['Under Node', 'Files and folders.', nodeDiagnostic.wordings],
  ['On the command line', 'Exit code 2.', commandDiagnostic.wordings],
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
