/** What the documentation imports is there. */
import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import * as anywhere from 'zip-loom';
import * as built from 'zip-loom/built';
import * as channels from 'zip-loom/channels';
import * as client from 'zip-loom/client';
import * as clientInspector from 'zip-loom/client/inspector';
import * as clientUploads from 'zip-loom/client/uploads';
import * as forms from 'zip-loom/forms';
import * as node from 'zip-loom/node';
import * as redis from 'zip-loom/redis';
import * as s3 from 'zip-loom/s3';
import * as testing from 'zip-loom/testing';
import * as vite from 'zip-loom/vite';

const exportsOf: Readonly<Record<string, object>> = {
  'zip-loom': anywhere,
  'zip-loom/built': built,
  'zip-loom/channels': channels,
  'zip-loom/client': client,
  'zip-loom/client/inspector': clientInspector,
  'zip-loom/client/uploads': clientUploads,
  'zip-loom/forms': forms,
  'zip-loom/node': node,
  'zip-loom/redis': redis,
  'zip-loom/s3': s3,
  'zip-loom/testing': testing,
  'zip-loom/vite': vite,
  // What the plugin makes; its tests read the same name.
  'zip-loom/templates': { built: {} },
  // What `zip-loom build` writes; the tests of the command read the same name.
  './build/templates/index.js': { built: {} },
};
const pages = [
  'README.md',
  ...readdirSync('docs')
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];

test('every import in an example of TypeScript', () => {
  const imports = pages.flatMap((page) =>
    [...readFileSync(page, 'utf8').matchAll(/^import \{ (.+?) \} from '(zip-loom[^']*|\.\/build\/[^']+)';$/gm)].flatMap(
      ([, names = '', module = '']) => names.split(', ').map((name) => ({ page, name, module })),
    ),
  );
  expect(imports.length).toBeGreaterThan(6);
  expect(imports.filter(({ name, module }) => !Object.hasOwn(exportsOf[module] ?? {}, name))).toEqual([]);
});

test('the client does nothing where there is no page, and says so to who needs one', async () => {
  client.start();
  await expect(client.reload('berths')).rejects.toThrow('There is no page here.');
  await expect(client.apply('<p>x</p>')).rejects.toThrow('There is no page here.');
});
