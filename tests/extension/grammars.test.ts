/** The grammars of the extension, by the engine that editors run them with, over the HTML and TypeScript grammars that editors have. */
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { IGrammar, IRawGrammar } from 'vscode-textmate';

const require = createRequire(import.meta.url);
const { createOnigScanner, createOnigString, loadWASM } =
  require('vscode-oniguruma') as typeof import('vscode-oniguruma');
const { INITIAL, Registry } = require('vscode-textmate') as typeof import('vscode-textmate');

const own: Readonly<Record<string, string>> = {
  'zip-loom.clauses': 'extension/grammars/clauses.json',
  'zip-loom.substitutions': 'extension/grammars/substitutions.json',
};
const others: Readonly<Record<string, string>> = {
  'text.html.basic': 'html',
  'source.ts': 'typescript',
  'source.js': 'javascript',
  'source.css': 'css',
};

const read = (path: string) => JSON.parse(readFileSync(path, 'utf8')) as IRawGrammar;

let grammar: IGrammar;
beforeAll(async () => {
  await loadWASM(readFileSync(require.resolve('vscode-oniguruma/release/onig.wasm')));
  const registry = new Registry({
    onigLib: Promise.resolve({ createOnigScanner, createOnigString }),
    loadGrammar: async (scope) => {
      const path = own[scope] ?? (others[scope] && `node_modules/tm-grammars/grammars/${others[scope]}.json`);
      return path ? read(path) : null;
    },
    getInjections: (scope) => (scope === 'text.html.basic' ? Object.keys(own) : undefined),
  });
  grammar = (await registry.loadGrammar('text.html.basic'))!;
});

/** The scopes of a word, the first time that it stands in a text after a mark. */
function scopesOf(text: string, word: string): string[] {
  let state = INITIAL;
  const from = Math.max(0, text.indexOf('▮'));
  let offset = 0;
  for (const line of text.replace('▮', '').split('\n')) {
    const { tokens, ruleStack } = grammar.tokenizeLine(line, state);
    state = ruleStack;
    const at = line.indexOf(word, Math.max(0, from - offset));
    const token = at === -1 ? undefined : tokens.find(({ startIndex, endIndex }) => startIndex <= at && at < endIndex);
    if (token) return token.scopes;
    offset += line.length + 1;
  }
  throw new Error(`“${word}” is not in the text.`);
}

describe('gives words of a template their scopes', () => {
  test.each([
    ['the word of a clause', '<p (if a > b)>c</p>', 'if', 'keyword.control.clause.zip-loom'],
    ['a comparison, which ends no tag', '<p (if a > b)>c</p>', '>', 'keyword.operator.relational.ts'],
    ['a name behind a comparison', '<p (if a > b)>c</p>', 'b', 'meta.embedded.expression.zip-loom'],
    ['an attribute behind a clause', '<p (if a > b) class="c">d</p>', 'class', 'entity.other.attribute-name.html'],
    ['a call in a clause', '<p (if has(a, (b))) id="c">d</p>', 'id', 'entity.other.attribute-name.html'],
    ['two words of a clause', '<p (else if a)>c</p>', 'else if', 'keyword.control.clause.zip-loom'],
    ['a clause of one word', '<p (else)>c</p>', 'else', 'keyword.control.clause.zip-loom'],
    ['of in a list', '<li (for one of many)>c</li>', 'of', 'keyword.operator.expression.of.ts'],
    ['a parameter', '<meta (takes berths: Map<string, Berth[]>, wide = false)>', 'wide', 'variable.parameter.ts'],
    ['a type', '<meta (takes berths: Map<string, Berth[]>, wide = false)>', 'Berth', 'entity.name.type.ts'],
    ['a default', '<meta (takes berths: Berth, wide = false)>', 'false', 'constant.language.boolean.false.ts'],
    ['an import', '<meta (import { Berth } from "../model.ts")>', 'Berth', 'entity.name.type.ts'],
    ['a layout', '<meta (layout site-layout wide=${a}) (takes a)>', 'site-layout', 'entity.name.tag.html'],
    ['an argument of a layout', '<meta (layout site-layout wide=${a})>', 'wide', 'entity.other.attribute-name.html'],
    ['a region', '<div (region rows-${id})></div>', 'rows-', 'string.unquoted.zip-loom'],
    ['a value in the name of a region', '<div (region rows-${id})></div>', 'id', 'meta.embedded.expression.zip-loom'],
    ['a substitution in text', '<p>${berth.name}</p>', 'name', 'meta.embedded.expression.zip-loom'],
    ['one alone in an attribute', '<p class=${[a, b && "c"]}>d</p>', 'b', 'meta.embedded.expression.zip-loom'],
    ['one among other text', '<p class="a ${b} c">d</p>', 'b', 'meta.embedded.expression.zip-loom'],
    ['a brace in one', '<p>${{ a: 1 }.a}▮</p>', '/p', 'text.html.basic'],
    ['a spread', '<p ${...rest}>d</p>', '...', 'keyword.operator.spread.ts'],
    ['one that is none', '<p>\\${name}</p>', '\\${', 'constant.character.escape.zip-loom'],
    ['a clause over lines', '<p (if a\n  && b > c)\n  id="d">e</p>', 'id', 'entity.other.attribute-name.html'],
    [
      'a tag with a hyphen',
      '<berth-card (for a of b) berth=${a}></berth-card>',
      'for',
      'keyword.control.clause.zip-loom',
    ],
  ])('%s', (_name, text, word, scope) => {
    expect(scopesOf(text, word).join(' ')).toContain(scope);
  });

  test.each([
    ['brackets in text', '<p>a (if you like)</p>', 'if'],
    ['brackets in an attribute', '<p title="a (if you like)">b</p>', 'if'],
    ['a comment', '<!-- ${a} (if b) -->', 'if'],
    ['a script', '<script>const a = `${b}`; if (c) d();</script>', 'b'],
    ['what is behind a substitution', '<p>${a} b</p>', ' b'],
    ['what is behind a clause', '<p (if a)>b</p>', '>b'],
  ])('and nothing else: %s', (_name, text, word) => {
    expect(scopesOf(text, word).join(' ')).not.toContain('zip-loom');
  });
});

test('every clause and substitution of the harbour ends where it ends', () => {
  for (const file of readdirSync('examples/harbour/templates', { recursive: true, encoding: 'utf8' })) {
    if (!file.endsWith('.html')) continue;
    let state = INITIAL;
    for (const line of readFileSync(`examples/harbour/templates/${file}`, 'utf8').split('\n')) {
      const { tokens, ruleStack } = grammar.tokenizeLine(line, state);
      state = ruleStack;
      const inside = tokens.filter(({ scopes }) => scopes.some((scope) => scope.includes('zip-loom')));
      // A tag begins in no code.
      const begun = inside.filter(({ startIndex, endIndex }) => /^<\/?[a-z]/.test(line.slice(startIndex, endIndex)));
      expect([file, line, begun]).toEqual([file, line, []]);
      const words = [...line.matchAll(/(?<=<[^>]*\()(?:if|for|let|takes|else)\b/g)];
      for (const { index, 0: word } of words)
        expect([line, word, tokens.find((one) => one.startIndex <= index && index < one.endIndex)?.scopes]).toEqual([
          line,
          word,
          expect.arrayContaining(['keyword.control.clause.zip-loom']),
        ]);
    }
    // Nothing is open at the end.
    expect([file, state.depth]).toEqual([file, 1]);
  }
});
