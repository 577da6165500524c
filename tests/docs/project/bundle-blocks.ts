/** Bundles the blocks of a chapter that are for a browser, with the Vite that its own blocks configure. */
import { build } from 'vite';

const [, , name = ''] = process.argv;
await build({
  configFile: 'vite.config.ts',
  logLevel: 'error',
  publicDir: false,
  build: {
    outDir: `bundles/${name}`,
    lib: { entry: `${name}-start.ts`, formats: ['iife'], name: 'blocks', fileName: () => 'blocks.js' },
  },
});
