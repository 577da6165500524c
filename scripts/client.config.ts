/** Builds the client as one minified file that starts itself. */
import { defineConfig } from 'vite';

export default defineConfig({
  publicDir: false,
  logLevel: 'warn',
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    target: 'es2022',
    minify: true,
    rollupOptions: { input: 'src/client/auto.ts', output: { entryFileNames: 'client.min.js' } },
  },
});
