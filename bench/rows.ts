/** Sends 1,000,000 rows to a slow reader and prints by how many MB the process grew. A process of its own for each way. */
import { createLoom } from 'zip-loom';
import { text as escapeText } from 'zip-loom/runtime';

const count = 1_000_000;
/** Rows that are sent first, as a server has sent pages before: compiled code and V8’s nursery take their room then. */
const warmUp = 50_000;
const page =
  '<meta (takes rows)>\n<table>\n  <tr (for row of rows)><td>${row.id}</td><td>${row.name}</td></tr>\n</table>\n';

async function* rows(most: number) {
  for (let id = 0; id < most; id++) yield { id, name: `Boat ${id} & Co` };
}

async function* byHand(most: number) {
  const encoder = new TextEncoder();
  let text = '<table>';
  for await (const row of rows(most)) {
    text += `\n  <tr><td>${row.id}</td><td>${escapeText(row.name)}</td></tr>`;
    if (text.length >= 16_384) {
      yield encoder.encode(text);
      text = '';
    }
  }
  yield encoder.encode(`${text}\n</table>\n`);
}

const loom = await createLoom({ sources: { 'pages/rows.html': page } });

function streamOf(how: string | undefined, most: number): ReadableStream<Uint8Array> {
  if (how === 'bare') {
    const source = byHand(most);
    return new ReadableStream({
      async pull(controller) {
        const { done, value } = await source.next();
        if (done) controller.close();
        else controller.enqueue(value);
      },
    });
  }
  return loom.stream('rows', { rows: rows(most) });
}

const memory = () => process.memoryUsage().rss / 1e6;

/** Takes a stream as a reader on a slow line does: nothing must pile up for it. */
async function readSlowly(stream: ReadableStream<Uint8Array>): Promise<{ most: number; bytes: number }> {
  const reader = stream.getReader();
  let most = 0;
  let bytes = 0;
  for (let chunk = 0; ; chunk++) {
    const { done, value } = await reader.read();
    if (done) return { most: Math.max(most, memory()), bytes };
    bytes += value.length;
    if (chunk % 4 === 0) await new Promise((resolve) => setTimeout(resolve, 1));
    if (chunk % 50 === 0) most = Math.max(most, memory());
  }
}

const how = process.argv[2];
await readSlowly(streamOf(how, warmUp));
globalThis.gc?.();
const before = memory();
const began = performance.now();
const { most, bytes } = await readSlowly(streamOf(how, count));
const seconds = (performance.now() - began) / 1000;
console.log(JSON.stringify({ growth: most - before, bytes, seconds }));
