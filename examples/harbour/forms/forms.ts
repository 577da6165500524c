/** The forms of the harbour: one definition each for the page, the checks and the reading. */
import { defineForm, type FormViewOf } from 'zip-loom/forms';
import { z } from 'zod';

export const searchForm = defineForm(
  'search',
  z.object({
    q: z.string().max(40).optional(),
    length: z.number().min(2).max(60).optional(),
    free: z.boolean(),
    page: z.int().min(1).max(1000).default(1),
  }),
  { labels: { q: 'Name', length: 'Minimum length, m', free: 'Free today' }, kinds: { q: 'text' } },
);

export const boatForm = defineForm(
  'boat',
  z.object({
    name: z.string().min(2, 'A boat’s name has at least two letters.').max(40),
    kind: z.enum(['sail', 'motor', 'rowing']),
    length: z
      .number()
      .min(2, 'Boats here are at least 2 metres long.')
      .max(60, 'Boats here are at most 60 metres long.'),
    homePort: z.string().min(2).max(60),
    insuredUntil: z.iso.date().optional(),
    about: z.string().max(500).optional(),
    photo: z.file().max(5_000_000).mime(['image/jpeg', 'image/png', 'image/webp']).optional(),
    insurance: z.file().max(5_000_000).mime(['application/pdf', 'image/jpeg', 'image/png']).optional(),
  }),
  {
    labels: { length: 'Length over all, m', homePort: 'Home port', about: 'About the boat' },
    hints: {
      insuredUntil: 'The last day of the insurance, if there is one.',
      photo: 'JPEG, PNG or WebP, at most 5 MB.',
      insurance: 'The policy as PDF, or a picture of it, at most 5 MB.',
    },
    choiceLabels: { kind: { sail: 'Sailing boat', motor: 'Motor boat', rowing: 'Rowing boat' } },
    kinds: { about: 'long-text' },
  },
);

export const commentForm = defineForm(
  'comment',
  z.object({
    text: z.string().min(3, 'Please say a little more.').max(500),
    picture: z.file().max(5_000_000).mime(['image/jpeg', 'image/png', 'image/webp']).optional(),
  }),
  {
    labels: { text: 'Your remark', picture: 'A picture' },
    hints: { picture: 'JPEG, PNG or WebP, at most 5 MB.' },
    kinds: { text: 'long-text' },
  },
);

export const signInForm = defineForm(
  'sign-in',
  z.object({ email: z.email(), password: z.string().min(1), next: z.string().max(200).optional() }),
  {
    kinds: { password: 'password' },
    labels: { email: 'E-mail' },
  },
);

export const detailsForm = defineForm('details', z.object({ name: z.string().min(2).max(60), email: z.email() }), {
  labels: { name: 'Your name', email: 'E-mail' },
});

export const passwordForm = defineForm(
  'password',
  z
    .object({
      current: z.string().min(1),
      next: z.string().min(8, 'Please use at least eight characters.'),
      again: z.string(),
    })
    .refine((sent) => sent.next === sent.again, { path: ['again'], message: 'The two passwords differ.' }),
  {
    kinds: { current: 'password', next: 'password', again: 'password' },
    labels: { current: 'Current password', next: 'New password', again: 'Repeat new password' },
  },
);

export const importForm = defineForm(
  'import',
  z.object({ file: z.file().max(2_000_000).mime(['text/csv', 'text/plain']) }),
  {
    labels: { file: 'File with boats' },
    hints: { file: 'Comma-separated values with the columns name, kind, length, home port and skipper; at most 2 MB.' },
  },
);

export const answerForm = defineForm('answer', z.object({ status: z.enum(['accepted', 'refused']) }));

// What templates take: they import these types.
/** @public */
export type SearchForm = FormViewOf<typeof searchForm>;
/** @public */
export type BoatForm = FormViewOf<typeof boatForm>;
/** @public */
export type ImportForm = FormViewOf<typeof importForm>;
/** @public */
export type SignInForm = FormViewOf<typeof signInForm>;
/** @public */
export type DetailsForm = FormViewOf<typeof detailsForm>;
/** @public */
export type CommentForm = FormViewOf<typeof commentForm>;
/** @public */
export type PasswordForm = FormViewOf<typeof passwordForm>;
