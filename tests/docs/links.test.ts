/** Every link of the documentation leads somewhere. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { expect, test } from '@jest/globals';

const pages = [
  ...readdirSync('.').filter((name) => name.endsWith('.md')),
  ...readdirSync('docs')
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
  ...['examples', 'packages'].flatMap((folder) => readdirSync(folder).map((name) => `${folder}/${name}/README.md`)),
];

interface Link {
  page: string;
  file: string;
  part: string;
}

/** Without those of code, and of other hosts. */
const links = pages.flatMap((page): Link[] => {
  const text = readFileSync(page, 'utf8')
    .replace(/^```.*?^```$/gms, '')
    .replace(/`[^`\n]*`/g, '');
  return [...text.matchAll(/\]\(([^)\s]+)\)/g)].flatMap(([, url = '']) => {
    if (/^[a-z]+:/.test(url)) return [];
    const [path = '', part = ''] = url.split('#');
    return [{ page, file: path === '' ? page : normalize(join(dirname(page), path)), part }];
  });
});

/** The names of parts as hosts of code make them: lower case, without punctuation, with hyphens for spaces. */
const partsOf = (file: string) =>
  [...readFileSync(file, 'utf8').matchAll(/^#+ (.*)$/gm)].map(([, heading = '']) =>
    heading
      .toLowerCase()
      .replace(/[^\p{L}\p{N}\s_-]/gu, '')
      .replace(/\s/g, '-'),
  );

test('links of the documentation', () => {
  expect(links.length).toBeGreaterThan(60);
  for (const { page, file, part } of links) {
    expect([page, file, existsSync(file)]).toEqual([page, file, true]);
    if (part !== '') expect([page, file, partsOf(file)]).toEqual([page, file, expect.arrayContaining([part])]);
  }
});

test('paths of the repository that are named are there', () => {
  const named = pages.flatMap((page) =>
    [...readFileSync(page, 'utf8').matchAll(/`((?:packages|tests|scripts|examples|bench|extension)\/[\w./-]*)`/g)].map(
      ([, path = '']) => [page, path] as const,
    ),
  );
  expect(named.length).toBeGreaterThan(55);
  expect(named.filter(([, path]) => !existsSync(path))).toEqual([]);
});

test('no picture is without a place', () => {
  const shown = new Set(links.map(({ file }) => file));
  const pictures = readdirSync('docs/screenshots').map((name) => `docs/screenshots/${name}`);
  expect(pictures.length).toBeLessThan(20);
  expect(pictures.filter((picture) => !shown.has(picture))).toEqual([]);
});
