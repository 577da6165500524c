/**
 * What browsers load in production says codes and facts instead of sentences, and what renders pages takes its options as they are: whoever
 * works on the site has read both before. What answers requests and reads forms checks as everywhere.
 */
import type { ESTree, Plugin } from 'vite';
import { type Cut, visitSyntax, withCuts } from './source-cuts.ts';

/** What every page that renders something loads. */
const ofRendering = /\/loom\/(?:create\/create-built-loom|create\/loom|render\/renderer)\.ts$/;

/** What is left out there where it stands alone as a statement. */
const checks = new Set(['assertOptions', 'assertArgument', 'assertHelpers', 'assertErrorPage', 'noteIdlePatterns']);

export function briefMessages(): Plugin {
  return {
    name: 'brief-messages',
    enforce: 'post',
    transform(code, id) {
      if (/diagnostics\/catalogue\.ts$/.test(id)) return { code: briefCatalogue, map: null };
      if (/diagnostics\/(?:nearest|frame)\.ts$/.test(id)) return { code: emptied(code), map: null };
      const find = /diagnostics\.ts$/.test(id) ? wordings : ofRendering.test(id) ? assertions : undefined;
      const cuts = find?.(this.parse(code)) ?? [];
      return cuts.length === 0 ? undefined : { code: withCuts(code, cuts), map: null };
    },
  };
}

const briefCatalogue = `
export function worded(wording) { return wording; }
export function sentence() { return {}; }
export function catalogue(warnings) {
  return (code, facts = {}) => ({
    code,
    severity: warnings.includes(code) ? 'warning' : 'error',
    facts,
    message: code + ' ' + JSON.stringify(facts),
    hint: '',
  });
}
`;

/** Near names are for sentences, and frames for who has the templates. */
function emptied(code: string): string {
  const names = [...code.matchAll(/^export (?:async )?function (\w+)/gm)].map(([, name]) => name);
  return names.map((name) => `export const ${name} = () => '';\n`).join('');
}

/** The object that a catalogue is made of → the codes of it that are warnings. */
function wordings(program: ESTree.Program): Cut[] {
  const cuts: Cut[] = [];
  for (const statement of program.body) {
    if (statement.type !== 'VariableDeclaration') continue;
    for (const { id, init } of statement.declarations) {
      if (id.type !== 'Identifier' || id.name !== 'wordings' || init?.type !== 'ObjectExpression') continue;
      cuts.push({
        start: init.start,
        end: init.end,
        text: JSON.stringify(init.properties.filter(isWarning).map(codeOf)),
      });
    }
  }
  return cuts;
}

function codeOf(field: ESTree.ObjectExpression['properties'][number]): string {
  return field.type === 'Property' && field.key.type === 'Literal' ? String(field.key.value) : '';
}

function isWarning(field: ESTree.ObjectExpression['properties'][number]): boolean {
  if (field.type !== 'Property' || field.value.type !== 'CallExpression') return false;
  return JSON.stringify(field.value.arguments).includes('"value":"warning"');
}

function assertions(program: ESTree.Program): Cut[] {
  const cuts: Cut[] = [];
  visitSyntax(program, (node) => {
    if (node.type !== 'ExpressionStatement' || node.expression.type !== 'CallExpression') return;
    const { callee } = node.expression;
    if (callee.type === 'Identifier' && checks.has(callee.name))
      cuts.push({ start: node.start, end: node.end, text: ';' });
  });
  return cuts;
}
