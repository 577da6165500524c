import type { LoomOptions } from 'zip-loom';

/** How the templates are put together; the command line reads this file too. */
export default {
  templates: new URL('./templates/', import.meta.url),
  layouts: { '**': 'site-layout' },
  assets: new URL('./public/', import.meta.url),
  locale: 'en-GB',
  timeZone: 'UTC',
} satisfies LoomOptions;
