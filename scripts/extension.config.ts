/** Builds the extension for editors that load folders of extensions: one script, its manifest and its grammars. */
import { cpSync } from 'node:fs';
import { isBuiltin } from 'node:module';
import { defineConfig } from 'vite';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  // The editor runs it as a program, not in a page.
  resolve: { conditions: ['node'], mainFields: ['main'] },
  build: {
    outDir: 'packages/zip-loom-tools/dist.new/extension',
    emptyOutDir: true,
    target: 'es2023',
    minify: true,
    lib: { entry: 'extension/extension.mts', formats: ['cjs'], fileName: () => 'extension.js' },
    rollupOptions: { external: (id) => id === 'vscode' || isBuiltin(id) },
  },
  plugins: [
    {
      name: 'manifest',
      closeBundle() {
        for (const file of ['package.json', 'README.md', 'grammars'])
          cpSync(`extension/${file}`, `packages/zip-loom-tools/dist.new/extension/${file}`, { recursive: true });
      },
    },
  ],
});
