/** Builds the example: its own templates and one of the harbour’s, for a browser that has no server. */
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { zipLoom } from 'zip-loom/vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('.'),
  logLevel: 'warn',
  // The second one is for what both have.
  plugins: [zipLoom({ types: 'templates.d.ts' }), zipLoom({ project: here('../harbour'), types: false })],
  build: { outDir: here('../../build/offline'), emptyOutDir: true, target: 'es2022' },
});
