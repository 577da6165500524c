/**
 * In JavaScript a name that is imported from the wrong entry fails as “does not provide an export”. So each entry that servers import has the
 * names of the others too, as functions that say where they are. Types know nothing of them.
 */
import { appendFileSync, readFileSync } from 'node:fs';

/** Entries of the package, and the modules of them that Node loads. */
const entries = {
  'zip-loom': 'dist/zip-loom.on-node.js',
  'zip-loom/node': 'dist/zip-loom.node.js',
  'zip-loom/forms': 'dist/zip-loom.forms.js',
  'zip-loom/channels': 'dist/channels/index.js',
  'zip-loom/built': 'dist/zip-loom.built.on-node.js',
  'zip-loom/redis': 'dist/redis/index.js',
  'zip-loom/s3': 'dist/s3/index.js',
  'zip-loom/testing': 'dist/zip-loom.testing.js',
};

const elsewhere = `
// Names of other entries.
function elsewhere(name, entry) {
	const fail = function() {
		throw new TypeError(\`“\${name}” is in another entry. Write: import { \${name} } from '\${entry}';\`);
	};
	return Object.defineProperty(fail, Symbol.hasInstance, { value: fail });
}
`;

const exported = Object.fromEntries(Object.entries(entries).map(([entry, file]) => [entry, namesOf(file)]));

for (const [entry, file] of Object.entries(entries)) {
  const misplaced = new Map();
  for (const [other, names] of Object.entries(exported))
    for (const name of names) if (!exported[entry].has(name) && !misplaced.has(name)) misplaced.set(name, other);
  const lines = [...misplaced].map(
    ([name, other], at) =>
      `const elsewhere${at} = /* @__PURE__ */ elsewhere('${name}', '${other}');\nexport { elsewhere${at} as ${name} };`,
  );
  appendFileSync(file, `${elsewhere}${lines.join('\n')}\n`);
}

function namesOf(file) {
  const [, list = ''] = /export \{([^}]*)\};?\s*$/.exec(readFileSync(file, 'utf8')) ?? [];
  const names = list.split(',').map((one) => one.trim().split(' as ').at(-1));
  if (names.length < 1 || names.some((name) => !/^[A-Za-z]\w*$/.test(name)))
    throw new Error(`${file} does not end with the list of its exports.`);
  return new Set(names);
}
