/** Builds the package’s entries: modules that share what they have in common, so that importing one of them loads few files. */
import { defineConfig } from 'vite';
import { packageEntries } from './package-entries.ts';
import { withoutExamples } from './without-examples.ts';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  plugins: [withoutExamples()],
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    target: 'es2023',
    minify: false,
    lib: { entry: packageEntries(), formats: ['es'] },
    rollupOptions: {
      // Packages stay packages; what is not used of them is not imported.
      external: (id) => !/^[./]/.test(id),
      treeshake: { moduleSideEffects: (id) => id.endsWith('/cli/main.ts') },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared/[name].js' },
    },
  },
});
