/** How the harbour’s templates are put together; the command line reads this file too. */
import type { LoomOptions } from 'zip-loom';
import { nightsBetween } from './data/calendar.ts';

export const configuration = {
  layouts: { '**': 'site-layout' },
  locale: 'en-GB',
  timeZone: 'Europe/London',
  helpers: { nights: nightsBetween },
} satisfies LoomOptions;

export default configuration;
