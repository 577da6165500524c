/** Bundles one module for a browser: `ENTRY` is its path, `OUT` the folder for `entry.js`. */
import { defineConfig } from 'vite';

export default defineConfig({
  logLevel: 'error',
  publicDir: false,
  build: {
    outDir: process.env['OUT']!,
    emptyOutDir: true,
    target: 'es2022',
    rollupOptions: { input: process.env['ENTRY']!, output: { entryFileNames: 'entry.js', inlineDynamicImports: true } },
  },
});
