/** Builds the harbour’s style sheet and its client, with hashed names and the list of them. */
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('.'),
  publicDir: here('./public'),
  logLevel: 'warn',
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
