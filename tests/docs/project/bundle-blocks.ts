/** Bundles the blocks of chapters that are for a browser, with the Vite that their own blocks configure. */
import { build } from 'vite';

for (const name of process.argv.slice(2))
  await build({
    configFile: 'vite.config.ts',
    logLevel: 'error',
    publicDir: false,
    build: {
      outDir: `bundles/${name}`,
      lib: { entry: `${name}-start.ts`, formats: ['es'], fileName: () => 'blocks.js' },
      rollupOptions: { output: { inlineDynamicImports: true } },
    },
  });
