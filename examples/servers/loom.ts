/** The loom that all four servers share, of the templates of the starter, and where the files are that they serve. */
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createLoom } from 'zip-loom';

/** `--dev` on the command line: errors are shown, and what changes in a template shows at once. */
const mode = process.argv.includes('--dev') ? 'development' : 'production';

export const publicFolder = fileURLToPath(new URL('../starter/public', import.meta.url));

export const loom = await createLoom({
  templates: new URL('../starter/templates/', import.meta.url),
  layouts: { '**': 'site-layout' },
  assets: publicFolder,
  locale: 'en-GB',
  mode,
  secret: process.env['SECRET'],
});

/** The client, and what it loads. */
export const clientFolder = dirname(fileURLToPath(import.meta.resolve('zip-loom/client.min.js')));

/** What of it is served. */
export const clientPath = /^\/client[a-z-]*\.min\.js$/;

export const port = Number(process.env['PORT'] ?? 3000);

export function tell(): void {
  console.log(`http://localhost:${port}/`);
}
