/** Builds the harbour’s style sheet. */
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
    rollupOptions: {
      input: [here('./styles/harbour.css'), here('./client.ts')],
      output: {
        entryFileNames: 'assets/[name].js',
        assetFileNames: 'assets/[name][extname]',
      },
    },
  },
});
