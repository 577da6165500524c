/**
 * `npm run mutations`: takes each rule of escaping and each refusal away in turn, in a copy of the sources, and shows that a
 * test fails for it. Names of rules may be given. Exit code 1 when a rule can go unnoticed.
 */

import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { requireNode, requirePackages } from './setup.mjs';

/** What is taken away: a name, a file, a text that stands in it once, and what stands there instead. */
const mutations = [
  ['& in text', 'src/runtime/text.ts', "return '&amp;';", "return '&';"],
  ['< in text', 'src/runtime/text.ts', "return '&lt;';", "return '<';"],
  ['> in text', 'src/runtime/text.ts', "return '&gt;';", "return '>';"],
  ['" in text', 'src/runtime/text.ts', "return '&quot;';", "return '\"';"],
  ["' in text", 'src/runtime/text.ts', "return '&#39;';", 'return "\'";'],
  ['lone surrogates in text', 'src/runtime/text.ts', "pair : '\\ufffd'", 'pair : text[at]'],
  [
    'values without an obvious text',
    'src/runtime/text.ts',
    'throw renderErrors.unprintable(value);',
    'return String(value);',
  ],
  ['a line break behind <pre> and <textarea>', 'src/runtime/text.ts', '/^[\\r\\n]/.test(printed)', 'false'],
  [
    'trusted by a symbol only',
    'src/runtime/trusted.ts',
    "Symbol.for('zip-loom.trusted-html')",
    "'zip-loom.trusted-html'",
  ],
  ['an & before a value', 'src/compiler/attribute-text.ts', "text.replace(/&(?=#?[a-z0-9]*$)/i, '&amp;')", 'text'],
  ['quotes in fixed text beside a value', 'src/compiler/attribute-text.ts', ".replaceAll('\"', '&quot;')", ''],
  ['schemes of addresses', 'src/runtime/urls.ts', 'address : blocked(out, address);', 'address : address;'],
  ['controls before a scheme', 'src/runtime/urls.ts', ".replace(leadingStripped, '')", ''],
  ['tabs and line breaks inside a scheme', 'src/runtime/urls.ts', ".replace(innerStripped, '')", ''],
  ['capitals in a scheme', 'src/runtime/urls.ts', '?.[1]?.toLowerCase()', '?.[1]'],
  [
    'data: for images only where it is an image',
    'src/runtime/urls.ts',
    '/^data:image\\//i.test(address.trimStart())',
    'true',
  ],
  [
    'percent-encoding of parts',
    'src/runtime/urls.ts',
    'encodeURIComponent(plain(value).toWellFormed())',
    'plain(value)',
  ],
  [
    'well-formed parts',
    'src/runtime/urls.ts',
    'encodeURIComponent(plain(value).toWellFormed())',
    'encodeURIComponent(plain(value))',
  ],
  ['dots as the one value of an address', 'src/runtime/urls.ts', 'leavesItsPlace([before, after], [part])', 'false'],
  ['segments that climb', 'src/runtime/urls.ts', 'suspicious && leavesItsPlace(texts, parts)', 'false'],
  ['halves of segments that climb', 'src/runtime/urls.ts', 'segment += parts[index];', 'segment = parts[index];'],
  [
    'each of several addresses',
    'src/runtime/urls.ts',
    'pieces.push(imageURL(out, trimmed)',
    'pieces.push(escapeText(trimmed)',
  ],
  ['what ends an address in a list', 'src/runtime/urls.ts', '.replace(/[\\s,]/g, encodeURIComponent)', ''],
  ['addresses of code', 'src/runtime/urls.ts', 'if (trusted === undefined) throw renderErrors.untrusted(what);', ''],
  ['the alphabet of styles', 'src/runtime/styles.ts', '!safeAlphabet.test(text) ||', ''],
  ['functions that load, in styles', 'src/runtime/styles.ts', '|| loadingFunction.test(text)', ''],
  ['comments in styles', 'src/runtime/styles.ts', "text.includes('/*') || ", ''],
  ['brackets in styles', 'src/runtime/styles.ts', 'return depth === 0;', 'return true;'],
  [
    'text as a whole style',
    'src/runtime/styles.ts',
    "if (typeof value !== 'object' || value === null",
    "if (typeof value === 'string') return value;\n  if (typeof value !== 'object' || value === null",
  ],
  ['closing JSON', 'src/runtime/json.ts', '/[<>&\\u2028\\u2029]/g', '/[\\u0000]/g'],
  [
    'strings inside JSON',
    'src/runtime/json.ts',
    'closed(JSON.stringify(plain(value).toWellFormed()).slice(1, -1))',
    'closed(plain(value))',
  ],
  [
    'trusted import maps',
    'src/runtime/json.ts',
    "if (address === undefined) throw renderErrors.untrusted('An import map');",
    'if (address === undefined) return jsonValue(value);',
  ],
  ['names in lists of attributes', 'src/runtime/attributes.ts', '!wellFormedName.test(written) || ', ''],
  ['well-formed names', 'src/runtime/attributes.ts', ' || !written.isWellFormed()', ''],
  [
    'refused names in lists of attributes',
    'src/runtime/attributes.ts',
    'throw renderErrors.attributeName(name);',
    'return attribute(prefix, value);',
  ],
  ['event handlers', 'src/runtime/attribute-kinds.ts', "name.startsWith('on') || ", ''],
  ['attributes that are never substituted', 'src/runtime/attribute-kinds.ts', 'never.has(name) || ', ''],
  ['attributes of <font>', 'src/runtime/attribute-kinds.ts', " || owner.name === 'font'", ''],
  [
    'the type of a script',
    'src/runtime/attribute-kinds.ts',
    "if (name === 'type' && owner.name === 'script') return 'refused';",
    '',
  ],
  [
    'the encoding of annotations',
    'src/runtime/attribute-kinds.ts',
    "if (name === 'encoding' && owner.name === 'annotation-xml') return 'refused';",
    '',
  ],
  [
    'what SVG animations set',
    'src/runtime/attribute-kinds.ts',
    "if (owner.svg && animation.has(name)) return 'refused';",
    '',
  ],
  ['a link whose rel is not fixed', 'src/runtime/attribute-kinds.ts', 'owner.rel === undefined || ', ''],
  [
    'fixed text of another scheme',
    'src/compiler/places.ts',
    'if (refused !== undefined) return refuse(complaints.refusedScheme(refused));',
    '',
  ],
  [
    'the same in the action of a form',
    'src/compiler/places.ts',
    'if (attribute && scheme !== undefined) report(attribute, complaints.refusedScheme(scheme));',
    '',
  ],
  [
    'the origin of code',
    'src/compiler/places.ts',
    'if (!settlesOrigin(value)) return refuse(complaints.untrustedCode(what));',
    '',
  ],
  [
    'the content of a refresh',
    'src/compiler/places.ts',
    'if (isRefresh(element, attribute)) return',
    'if (false) return',
  ],
  [
    'a whole style as a value',
    'src/compiler/style-places.ts',
    "if (value.length === 1) return refuse(complaints.refusedStyle('the place of a whole style'));",
    '',
  ],
  [
    'the name of a property',
    'src/compiler/style-places.ts',
    "if (!texts[0]!.includes(':')) return refuse(complaints.refusedStyle('the name of a property'));",
    '',
  ],
  [
    'url(…) of a style',
    'src/compiler/style-places.ts',
    "if (isInsideURL(texts)) return refuse(complaints.refusedStyle('url(…) of a style'));",
    '',
  ],
  ['text that cannot be escaped', 'src/compiler/nodes.ts', 'if (refusesText(element, at)) return;', ''],
  ['JSON that is none', 'src/compiler/json-scripts.ts', 'if (holdsValue) checkJSON(standIn, element, at);', ''],
  ['strings of an import map', 'src/compiler/json-scripts.ts', 'if (isCode && inString)', 'if (false)'],
  ['names of tags', 'src/language/tokenizer.ts', 'complaint, this.report);', 'complaint, () => {});'],
  [
    'names of attributes',
    'src/language/attributes.ts',
    'complaints.substitutionInAttributeName(), report);',
    'complaints.substitutionInAttributeName(), () => {});',
  ],
  [
    'trusted markup in attributes',
    'src/runtime/text.ts',
    "typeof value === 'number' ? `${value}` : escapeText(plain(value))",
    'text(value)',
  ],
  [
    'the address of a refresh in lists',
    'src/runtime/attribute-kinds.ts',
    "if (name === 'content' && owner.refresh) return 'refused';",
    '',
  ],
  [
    'another rel in lists',
    'src/runtime/attribute-kinds.ts',
    "if (name === 'rel' && owner.name === 'link' && owner.rel !== undefined) return 'refused';",
    '',
  ],
  [
    'buttons from lists that lead elsewhere',
    'src/runtime/attributes.ts',
    "if (name === 'formaction') noteFormAction(out, addressOf(out, value));",
    '',
  ],
  ['tokens of forms that lead elsewhere', 'src/runtime/binding.ts', '!open?.posts || open.elsewhere', '!open?.posts'],
];

const tests = [
  'tests/loom/values.test.ts',
  'tests/fuzz/structure.test.ts',
  'tests/forms/exchange.test.ts',
  'tests/forms/binding.test.ts',
];

requireNode();
requirePackages();
const folder = mkdtempSync(join(tmpdir(), 'zip-loom-mutations-'));
process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
for (const name of ['src', 'tests', 'examples', 'jest.config.json', 'package.json'])
  cpSync(name, join(folder, name), { recursive: true });
symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));

/** Whether the tests pass in the copy. */
function passes(files, names = []) {
  const args = [
    '--experimental-vm-modules',
    '--no-warnings',
    'node_modules/jest/bin/jest.js',
    '--bail',
    ...files,
    ...names,
  ];
  return spawnSync(process.execPath, args, { cwd: folder, stdio: 'ignore' }).status === 0;
}

if (!passes(tests)) {
  console.error('The tests fail before anything was taken away.');
  process.exit(1);
}
const wanted = process.argv.slice(2);
const chosen = mutations.filter(([name]) => wanted.length === 0 || wanted.includes(name));
let unnoticed = 0;
for (const [name, file, found, instead] of chosen) {
  const path = join(folder, file);
  const source = readFileSync(path, 'utf8');
  if (source.split(found).length !== 2) {
    console.error(
      `${name}: “${found}” stands ${source.split(found).length - 1} times in ${file}; it should stand once.`,
    );
    unnoticed++;
    continue;
  }
  writeFileSync(
    path,
    source.replace(found, () => instead),
  );
  // The quick tests first; the structure in a parser and in a browser only where they see nothing.
  const noticed = [[tests[0]], [tests[2], tests[3]], [tests[1]]].find((files) => !passes(files));
  writeFileSync(path, source);
  if (!noticed) unnoticed++;
  console.log(`${noticed ? 'noticed  ' : 'UNNOTICED'}  ${name}${noticed ? `, by ${noticed.join(' or ')}` : ''}`);
}
console.log(`${chosen.length} rules taken away, ${unnoticed} unnoticed`);
process.exitCode = unnoticed > 0 ? 1 : 0;
