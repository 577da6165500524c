/** The loom that all four servers share, and where the files are that they serve. */
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createLoom } from 'zip-loom';
import configuration from './zip-loom.config.ts';

/** `--dev` on the command line: errors are shown, and what changes in a template shows at once. */
const mode = process.argv.includes('--dev') ? 'development' : 'production';

export const loom = await createLoom({ ...configuration, mode, secret: process.env['SECRET'] });

export const publicFolder = fileURLToPath(new URL('./public', import.meta.url));

/** The client, and what it loads. */
export const clientFolder = dirname(fileURLToPath(import.meta.resolve('zip-loom/client.min.js')));

/** What of it is served. */
export const clientPath = /^\/client[a-z-]*\.min\.js$/;

export const port = Number(process.env['PORT'] ?? 3000);

export function tell(): void {
  console.log(`http://localhost:${port}/`);
}
