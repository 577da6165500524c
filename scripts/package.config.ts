/** Builds the entries of a package, which `PACKAGE` names: modules that share what they have in common, so that importing one of them loads few files. */
import { defineConfig } from 'vite';
import { packageEntries } from './package-entries.ts';
import { withoutExamples } from './without-examples.ts';

const name = process.env['PACKAGE']!;

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  plugins: [withoutExamples()],
  build: {
    outDir: `packages/${name}/dist.new`,
    emptyOutDir: false,
    target: 'es2023',
    minify: false,
    lib: { entry: packageEntries(name), formats: ['es'] },
    rollupOptions: {
      // Packages stay packages; what is not used of them is not imported.
      external: (id) => !/^[./]/.test(id),
      treeshake: { moduleSideEffects: (id) => id.endsWith('/main.ts') },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared/[name].js', comments: { jsdoc: false } },
    },
  },
});
