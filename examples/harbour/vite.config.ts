/** Builds the harbour’s style sheet and its client, with hashed names and the list of them; serves them while somebody works on it. */
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { zipLoom } from 'zip-loom/vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('.'),
  publicDir: here('./public'),
  logLevel: 'warn',
  plugins: [zipLoom()],
  build: {
    outDir: here('../../build/harbour'),
    emptyOutDir: true,
    target: 'es2022',
    manifest: true,
    rollupOptions: {
      input: [here('./styles/harbour.css'), here('./client.ts')],
    },
  },
});
