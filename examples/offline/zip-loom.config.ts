/** The harbour in a pocket: its templates are rendered in the browser alone. */
import type { LoomOptions } from 'zip-loom';

export default {
  locale: 'en-GB',
  timeZone: 'Europe/London',
} satisfies LoomOptions;
