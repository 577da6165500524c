/** Builds the package’s entries: modules that share what they have in common, so that importing one of them loads few files. */
import { readFileSync } from 'node:fs';
import { defineConfig } from 'vite';
import { withoutExamples } from './without-examples.ts';

interface Package {
  exports: Record<string, unknown>;
  bin: Record<string, string>;
}

/** Every module that the package names → its source. */
function entries(): Record<string, string> {
  const { exports, bin } = JSON.parse(readFileSync('package.json', 'utf8')) as Package;
  const named = JSON.stringify([exports, bin]).matchAll(/"\.\/dist\/([\w./-]+)\.js"/g);
  const names = [...named].map(([, name]) => name!).filter((name) => !name.endsWith('.min'));
  return Object.fromEntries(names.map((name) => [name, `src/${name}.ts`]));
}

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  plugins: [withoutExamples()],
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    target: 'es2023',
    minify: false,
    lib: { entry: entries(), formats: ['es'] },
    rollupOptions: {
      // Packages stay packages; what is not used of them is not imported.
      external: (id) => !/^[./]/.test(id),
      treeshake: { moduleSideEffects: (id) => id.endsWith('/cli/main.ts') },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared/[name].js' },
    },
  },
});
