/**
 * Builds what browsers load in production: a module for each source, so that bundlers find what a page needs alone, with brief messages.
 * All entries that a page can hold are of one piece, for they share classes and symbols.
 */
import { defineConfig } from 'vite';
import { briefMessages } from './brief-messages.ts';
import { packageEntries } from './package-entries.ts';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  plugins: [briefMessages()],
  build: {
    outDir: 'packages/zip-loom/dist.new/production',
    emptyOutDir: true,
    target: 'es2023',
    minify: false,
    lib: {
      entry: packageEntries('zip-loom', 'production/'),
      formats: ['es'],
    },
    rollupOptions: {
      external: (id) => !/^[./]/.test(id),
      treeshake: { moduleSideEffects: false },
      output: {
        comments: { jsdoc: false },
        preserveModules: true,
        preserveModulesRoot: 'packages/zip-loom/src',
        entryFileNames: '[name].js',
      },
    },
  },
});
