/**
 * Builds a part of the client as one minified file: `ENTRY` is its source, `OUT` the path of the file below `packages`. What the client loads when a page
 * needs it is a file beside it, whatever the client itself is called where it is served.
 */
import { defineConfig } from 'vite';
import { laterFiles } from './later-files.mjs';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  plugins: [
    {
      name: 'later-files',
      resolveDynamicImport(specifier) {
        const file = typeof specifier === 'string' ? laterFiles[specifier.replace(/^\.\//, 'client/')] : undefined;
        return file === undefined ? null : { id: `./${file}`, external: true };
      },
    },
  ],
  build: {
    outDir: 'packages',
    emptyOutDir: false,
    target: 'es2022',
    minify: true,
    modulePreload: false,
    rollupOptions: {
      input: process.env['ENTRY']!,
      preserveEntrySignatures: 'strict',
      output: { entryFileNames: process.env['OUT']! },
    },
  },
});
