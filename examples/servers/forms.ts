/** The form of the starter. Its own module is of another package, which finds `zip-loom` where that is installed. */
import { defineForm, type FormViewOf } from 'zip-loom/forms';
import { z } from 'zod';

export const entryForm = defineForm(
  'entry',
  z.object({
    boat: z.string().min(2, 'A boat’s name has at least two letters.').max(40),
    remark: z.string().max(200).optional(),
  }),
  { labels: { boat: 'Boat', remark: 'Remark' }, kinds: { remark: 'long-text' } },
);

/** What templates take. */
export type EntryForm = FormViewOf<typeof entryForm>;
