/** A project of many templates, half of them pages, each with a partial of its own. */

const model = `export interface Berth { id: number; name: string; free: boolean; freeFrom?: string; price: number; stays: Stay[] }
export interface Stay { id: number; boat: string; from: string; nights: number }
`;

const page = (
  at: number,
) => `<meta (import { Berth } from "../../src/model.ts") (takes berths: Berth[], query = "", page: number)>
<h1>Berths ${at}</h1>
<p (if query)>For “\${query}”, page \${page}</p>
<ul class="berths">
  <li (for berth, i of berths)>
    <h2 id="berth-\${berth.id}"><a href="/berths/\${berth.id}">\${i + 1}. \${berth.name}</a></h2>
    <p (if berth.free)>Free now, \${berth.price.toFixed(2)} a night</p>
    <p (else if berth.freeFrom)>Free from \${berth.freeFrom.slice(0, 10)}</p>
    <p (else)>Taken</p>
    <ol (if berth.stays.length)><li (for stay of berth.stays)>\${stay.boat}, \${stay.from}, \${stay.nights * 2}</li></ol>
    <part-${at} berth=\${berth} compact></part-${at}>
  </li>
  <li (else)>None</li>
</ul>
`;
const part = (at: number) => `<meta (import { Berth } from "../../src/model.ts") (takes berth: Berth, compact = false)>
<article class=\${compact && 'compact'}><h3>\${berth.name.toUpperCase()} ${at}</h3><p (if !compact)>\${berth.price * 2}</p></article>
`;

/** The files of a project, by their paths. */
export function manyTemplates(count: number): Record<string, string> {
  const files: Record<string, string> = { 'src/model.ts': model };
  for (let at = 0; at < count / 2; at++) {
    files[`templates/pages/page-${at}.html`] = page(at);
    files[`templates/partials/part-${at}.html`] = part(at);
  }
  return files;
}
