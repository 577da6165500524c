/** Modules of the program, and its packages, get Windows’ own in place of Node’s for paths, files and URLs of files. */
import fs from 'node:fs';
import files from 'node:fs/promises';
import path from 'node:path';
import url from 'node:url';
import * as jiti from 'jiti';

const here = new URL('.', import.meta.url).href;
const modules = { path, fs, 'fs/promises': files, url, jiti };
const replaced = new Map(
  Object.keys(modules).map((name) => [name, new URL(`./${name.replace('/', '-')}.mjs`, import.meta.url).href]),
);

export function resolve(specifier, context, next) {
  const own = replaced.get(specifier.replace(/^node:/, ''));
  return own !== undefined && !context.parentURL?.startsWith(here)
    ? { url: own, shortCircuit: true }
    : next(specifier, context);
}

export async function load(address, context, next) {
  const loaded = await next(address, context);
  const [name] = [...replaced].find(([, own]) => own === address) ?? [];
  if (name === undefined) return loaded;
  const names = Object.keys(modules[name]).filter((one) => /^\w+$/.test(one) && one !== 'default');
  const exports = names.map((one) => `const $${one} = own.${one};\nexport { $${one} as ${one} };\n`);
  return { ...loaded, source: `${loaded.source}\n${exports.join('')}` };
}
