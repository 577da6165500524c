/** A form with a list of rows: 200 of them beside the same by hand, and whether twice as many rows take twice as long. */
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { text as escapeText } from 'zip-loom/runtime';
import { z } from 'zod';
import { type Comparison, median } from './support/measure.ts';

const crew = z.array(z.object({ name: z.string().max(40), age: z.number().min(0).max(110) })).max(1000);
const form = defineForm('trip', z.object({ crew }));
const modelOf = (rows: number) => ({
  crew: Array.from({ length: rows }, (_, index) => ({ name: `Member ${index} & Co`, age: index % 90 })),
});
const template = `<meta (takes f)><form (bind f) action="/save" method="post">
<p (for _, i of f.items('crew'))><label for="crew[\${i}].name">Name</label> <input name="crew[\${i}].name"> <label for="crew[\${i}].age">Age</label> <input name="crew[\${i}].age"></p>
<button>Save</button></form>
`;

/** Showing and reading; showing beside the same by hand. */
export async function listComparison(): Promise<Comparison> {
  const loom = await createLoom({ sources: { 'pages/trip.html': template }, secret: 'a secret for measuring alone' });
  const model = modelOf(200);
  const bare = () => {
    let out = '<form action="/save" method="post">\n';
    for (const [i, { name, age }] of model.crew.entries())
      out += `<p><label for="trip-crew-${i}--name">Name</label> <input name="crew[${i}].name" type="text" id="trip-crew-${i}--name" required maxlength="40" value="${escapeText(name)}"> <label for="trip-crew-${i}--age">Age</label> <input name="crew[${i}].age" type="number" id="trip-crew-${i}--age" required min="0" max="110" step="any" value="${escapeText(String(age))}"></p>\n`;
    return `${out}<button>Save</button><input type="hidden" name="crew[]" value=""></form>\n`;
  };
  return {
    name: 'a bound list of 200 rows',
    goal: 10,
    work: () => loom.renderSync('trip', { f: form.from(model) }),
    bare,
  };
}

/** How much longer twice as many rows take: to show, and to read. */
export async function growthOfLists(): Promise<string> {
  const loom = await createLoom({ sources: { 'pages/trip.html': template }, secret: 'a secret for measuring alone' });
  const bodyOf = (rows: number) =>
    new URLSearchParams(
      modelOf(rows).crew.flatMap(({ name, age }, index) => [
        [`crew[${index}].name`, name],
        [`crew[${index}].age`, String(age)],
      ]),
    );
  const show = async (rows: number) => void loom.renderSync('trip', { f: form.from(modelOf(rows)) });
  const read = async (rows: number) => {
    const sent = await form.read(new Request('http://harbour.test/', { method: 'POST', body: bodyOf(rows) }), {
      token: false,
    });
    if (!sent.ok) throw new Error('The list was not read.');
  };
  const lines = [];
  for (const [what, work] of [
    ['showing', show],
    ['reading', read],
  ] as const) {
    const times = new Map<number, number[]>([
      [100, []],
      [200, []],
      [400, []],
    ]);
    for (let round = 0; round < 60; round++)
      for (const [rows, taken] of times) {
        const start = performance.now();
        await work(rows);
        if (round >= 20) taken.push(performance.now() - start);
      }
    const [a, b, c] = [...times.values()].map(median) as [number, number, number];
    lines.push(
      `${what} 100, 200, 400 rows: ${a.toFixed(2)}, ${b.toFixed(2)}, ${c.toFixed(2)} ms (× ${(b / a).toFixed(2)}, × ${(c / b).toFixed(2)})`,
    );
  }
  return lines.join('\n');
}
