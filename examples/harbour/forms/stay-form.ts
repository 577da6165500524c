/** The form for a stay. Its berths and boats are asked for, so that it is made with the questions. */
import { defineForm, type FormViewOf, type SearchedChoice } from 'zip-loom/forms';
import { z } from 'zod';

interface Questions {
  /** The berths of a pontoon. */
  berthsOf(pontoon: string): Promise<Array<{ value: number; label: string; group: string }>>;
  /** Boats by part of their name. */
  findBoats(text: string): Promise<SearchedChoice[]>;
  boatOf(id: number): Promise<SearchedChoice | undefined>;
}

export function createStayForm({ berthsOf, findBoats, boatOf }: Questions) {
  return defineForm(
    'stay',
    z
      .object({
        pontoon: z.enum(['A', 'B', 'C', 'D', 'E', 'F']),
        berth: z.int(),
        boat: z.int(),
        from: z.iso.date(),
        until: z.iso.date(),
        crew: z
          .array(z.object({ name: z.string().min(2).max(40), age: z.int().min(0).max(110) }))
          .min(1)
          .max(8),
      })
      .refine(({ from, until }) => from < until, {
        path: ['until'],
        message: 'The day of leaving comes after that of arrival.',
      }),
    {
      labels: {
        from: 'Arrival',
        until: 'Leaving',
        crew: 'Crew',
        'crew[].name': 'Name',
        'crew[].age': 'Age, years',
      },
      hints: { boat: 'Part of its name, then choose from the list.' },
      choices: { berth: (_exchange, form) => berthsOf(form.text('pontoon')) },
      searches: {
        boat: { find: (_exchange, text) => findBoats(text), byValue: (_exchange, id) => boatOf(Number(id)) },
      },
      once: true,
    },
  );
}

export type StayFormDefinition = ReturnType<typeof createStayForm>;

/** What a visitor goes through; the office has it all on one page. */
export const staySteps = [
  { name: 'place', fields: ['pontoon', 'berth', 'boat', 'from', 'until'], label: 'Berth and dates' },
  { name: 'crew', fields: ['crew'] },
] as const;

// What templates take: they import this type.
/** @public */
export type StayForm = FormViewOf<StayFormDefinition>;
