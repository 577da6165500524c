/** How the harbour’s templates are put together; the command line reads this file too. */
import { fileURLToPath } from 'node:url';
import type { LoomOptions } from 'zip-loom';
import { nightsBetween } from './data/calendar.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default {
  layouts: { '**': 'site-layout', 'staff/**': 'staff-layout' },
  assets: { folder: here('./public'), manifest: here('../../build/harbour/.vite/manifest.json') },
  errorPage: 'error',
  // Links and forms to other paths are found by `zip-loom check`.
  paths: [
    '/',
    '/about',
    '/arrivals',
    '/berths',
    '/berths/:id',
    '/berths/:id/comments',
    '/berths/:id/comments/:comment/picture',
    '/berths/:id/watch',
    '/boats',
    '/boats/new',
    '/boats/:id',
    '/boats/:id/edit',
    '/boats/:id/insurance',
    '/boats/:id/photo',
    '/profile',
    '/rules',
    '/sign-in',
    '/sign-out',
    '/staff',
    '/staff/import',
    '/staff/import/sample.csv',
    '/staff/stays',
    '/staff/stays/new',
    '/staff/stays/:id',
    '/stays',
    '/stays/boats',
    '/stays/new',
  ],
  // Written for each page from what it uses.
  policy: 'strict',
  locale: 'en-GB',
  timeZone: 'Europe/London',
  helpers: { nights: nightsBetween },
} satisfies LoomOptions;
