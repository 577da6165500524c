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

/** The exponent that the goal allows: 1 is linear, 2 quadratic. */
const steepest = 1.1;

/** The time of lists of 100 to 6,400 rows, valid and refused, and the exponent with which it grows. */
export async function growthOfLists(): Promise<string> {
  const many = z.array(z.object({ name: z.string().min(2).max(40), age: z.number().min(0).max(110) })).max(10_000);
  const longForm = defineForm('trip', z.object({ crew: many }), {
    limits: { body: 2 ** 24, fields: 20_000, list: 10_000 },
  });
  const loom = await createLoom({
    sources: { 'pages/trip.html': template.replace('></p>', '><b (errors crew[${i}].name)></b></p>') },
    secret: 'a secret for measuring alone',
  });
  const request = (rows: number, name: string) =>
    new Request('http://harbour.test/', {
      method: 'POST',
      body: new URLSearchParams(
        modelOf(rows).crew.flatMap(({ age }, index) => [
          [`crew[${index}].name`, name],
          [`crew[${index}].age`, String(age)],
        ]),
      ),
    });
  const read = (rows: number, name: string) => longForm.read(request(rows, name), { token: false });
  const sizes = [100, 400, 1600, 6400];
  const sentBySize = new Map<string, unknown>();
  for (const rows of sizes) for (const name of ['Ada', 'A']) sentBySize.set(`${rows} ${name}`, await read(rows, name));
  const lines = [];
  for (const [what, work] of [
    ['reading valid rows', (rows: number) => read(rows, 'Ada')],
    ['reading refused rows', (rows: number) => read(rows, 'A')],
    ['showing valid rows', (rows: number) => loom.renderSync('trip', { f: sentBySize.get(`${rows} Ada`) })],
    ['showing refused rows', (rows: number) => loom.renderSync('trip', { f: sentBySize.get(`${rows} A`) })],
  ] as const) {
    const times = sizes.map((): number[] => []);
    for (let round = 0; round < 14; round++)
      for (const [at, rows] of sizes.entries()) {
        const start = performance.now();
        await work(rows);
        if (round >= 5) times[at]!.push(performance.now() - start);
      }
    const medians = times.map(median);
    const exponent = Math.log(medians.at(-1)! / medians[0]!) / Math.log(sizes.at(-1)! / sizes[0]!);
    lines.push(
      `${what.padEnd(22)} ${sizes.join(', ')}: ${medians.map((time) => time.toFixed(1)).join(', ')} ms, exponent ${exponent.toFixed(2)} (goal ${steepest})${exponent <= steepest ? '' : '  missed'}`,
    );
  }
  return lines.join('\n');
}
