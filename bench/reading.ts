/** Reading a form that was sent, beside `URLSearchParams` and the schema alone. */
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import type { Comparison } from './support/measure.ts';

const names = Array.from({ length: 30 }, (_, index) => `field${index + 1}`);
const isNumber = (index: number) => index % 5 === 4;
const body = new URLSearchParams(
  names.map((name, index) => [name, isNumber(index) ? String(index) : `value ${index} & more`]),
).toString();

const request = () =>
  new Request('http://harbour.test/save', {
    method: 'POST',
    body,
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
  });

export async function readingComparison(): Promise<Comparison> {
  const schema = (number: z.ZodType) =>
    z.object(Object.fromEntries(names.map((name, index) => [name, isNumber(index) ? number : z.string().max(40)])));
  const form = defineForm('thirty', schema(z.number().min(0).max(100)));
  // By hand numbers have to be made of texts, too.
  const byHand = schema(z.coerce.number().min(0).max(100));
  const work = async () => {
    const sent = await form.read(request(), { token: false });
    return sent.ok ? sent.value : undefined;
  };
  const bare = async () => {
    const fields = Object.fromEntries(new URLSearchParams(await request().text()));
    const result = await byHand['~standard'].validate(fields);
    return 'value' in result ? result.value : undefined;
  };
  if (JSON.stringify(await work()) !== JSON.stringify(await bare()))
    throw new Error('Both sides do not read the same.');
  return { name: 'reading a form of 30 fields', goal: 1.5, work, bare };
}
