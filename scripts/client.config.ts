/** Builds a client as one minified file that starts itself: `ENTRY` is its source, `OUT` the name of the file. */
import { defineConfig } from 'vite';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    target: 'es2022',
    minify: true,
    rollupOptions: { input: process.env['ENTRY']!, output: { entryFileNames: process.env['OUT']! } },
  },
});
