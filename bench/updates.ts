/** What regions cost on the server, beside the same page without digests and the whole page. */
import { createLoom } from 'zip-loom';
import type { Comparison } from './support/measure.ts';

const page = `<meta (takes sections)>
<main>
  <section (for section of sections) (region part-\${section.id})>
    <h2>\${section.title}</h2>
    <ul><li (for item of section.items) class=\${item.id % 2 && 'odd'}><a href="/items/\${item.id}">\${item.name}</a> \${item.price} <em>\${item.note}</em></li></ul>
  </section>
</main>
`;
const sections = Array.from({ length: 20 }, (_, id) => ({
  id,
  title: `Part ${id}`,
  items: Array.from({ length: 50 }, (_, item) => ({
    id: item,
    name: `Item ${item} & more`,
    price: item * 1.5,
    note: `noted on day ${item}`,
  })),
}));

export async function updateComparisons(): Promise<Comparison[]> {
  const loom = await createLoom({ sources: { 'pages/parts.html': page } });
  const respond = (headers: Record<string, string>) => async () => {
    const response = await loom.respond(new Request('http://harbour.test/', { headers }), 'parts', { sections });
    return response.text();
  };
  const whole = respond({});
  return [
    { name: 'digests of 20 regions, beside none', goal: 1.25, work: respond({ cookie: 'loom-client=1' }), bare: whole },
    {
      name: 'two of 20 regions alone, one by one',
      goal: 0.5,
      work: async () => {
        await respond({ 'loom-only': 'part-3', 'loom-page': 'parts' })();
        await respond({ 'loom-only': 'part-14', 'loom-page': 'parts' })();
      },
      bare: whole,
    },
  ];
}
