/**
 * In JavaScript a name that is imported from the wrong entry fails as “does not provide an export”. So each entry that servers import has the
 * names of the others too, as functions that say where they are. Types know nothing of them.
 */
import { appendFileSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Entries of the package, and the modules of them that Node loads. */
const entries = {
  'zip-loom': 'zip-loom.on-node.js',
  'zip-loom/node': 'zip-loom.node.js',
  'zip-loom/forms': 'zip-loom.forms.js',
  'zip-loom/channels': 'channels/index.js',
  'zip-loom/built': 'zip-loom.built.on-node.js',
  'zip-loom/redis': 'redis/index.js',
  'zip-loom/s3': 's3/index.js',
  'zip-loom/testing': 'zip-loom.testing.js',
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

/** @param folder the library’s modules as they were built */
export function giveMisplacedNames(folder) {
  const exported = Object.fromEntries(
    Object.entries(entries).map(([entry, file]) => [entry, namesOf(join(folder, file))]),
  );

  for (const [entry, file] of Object.entries(entries)) {
    const misplaced = new Map();
    for (const [other, names] of Object.entries(exported))
      for (const name of names) if (!exported[entry].has(name) && !misplaced.has(name)) misplaced.set(name, other);
    const lines = [...misplaced].map(
      ([name, other], at) =>
        `const elsewhere${at} = /* @__PURE__ */ elsewhere('${name}', '${other}');\nexport { elsewhere${at} as ${name} };`,
    );
    appendFileSync(join(folder, file), `${elsewhere}${lines.join('\n')}\n`);
  }
}

function namesOf(file) {
  const [, list = ''] =
    /export \{([^}]*)\}(?: from '[^']*'| from "[^"]*")?;?\s*$/.exec(readFileSync(file, 'utf8')) ?? [];
  const names = list.split(',').map((one) => one.trim().split(' as ').at(-1));
  if (names.length < 1 || names.some((name) => !/^[A-Za-z]\w*$/.test(name)))
    throw new Error(`${file} does not end with the list of its exports.`);
  return new Set(names);
}
