/** How the harbour’s templates are put together; the command line reads this file too. */
import { fileURLToPath } from 'node:url';
import type { LoomOptions } from 'zip-loom';
import { nightsBetween } from './data/calendar.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default {
  layouts: { '**': 'site-layout', 'staff/**': 'staff-layout' },
  assets: { folder: here('./public'), manifest: here('../../build/harbour/.vite/manifest.json') },
  errorPage: 'error',
  // Written for each page from what it uses.
  policy: 'strict',
  locale: 'en-GB',
  timeZone: 'Europe/London',
  helpers: { nights: nightsBetween },
} satisfies LoomOptions;
