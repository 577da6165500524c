/** The calls of a page as a tree: what each template made, and how long it took. */
import { partsAround, type Trace, type TracedPart } from './read-trace.ts';

/** Calls of one template at one place. */
export interface TraceEntry {
  template: string;
  file: string;
  /** Where it is called; missing for the page. */
  caller: TracedPart['caller'];
  calls: number;
  /** In UTF-8: of all that is inside, and of what it has written itself. */
  bytes: number;
  ownBytes: number;
  /** With what it calls, and without. */
  milliseconds: number;
  ownMilliseconds: number;
  entries: TraceEntry[];
}

/** The calls of a page; what fills a slot is counted for the template that it is written in. */
export function traceTree({ html, parts, stretches }: Trace): TraceEntry[] {
  const bytesOf = (start: number, end: number) => new TextEncoder().encode(html.slice(start, end)).length;
  const own = new Map<TracedPart, number>();
  for (const { start, end, file } of stretches) {
    const around = partsAround(parts, start);
    const maker = around.findLast((part) => part.file === file) ?? around.at(-1);
    if (maker) own.set(maker, (own.get(maker) ?? 0) + bytesOf(start, end));
  }
  return entriesOf(parts, own, bytesOf);
}

function entriesOf(
  parts: readonly TracedPart[],
  own: ReadonlyMap<TracedPart, number>,
  bytesOf: (start: number, end: number) => number,
): TraceEntry[] {
  const groups = new Map<string, TracedPart[]>();
  for (const part of parts) {
    const key = `${part.template}\n${part.file}\n${part.caller?.file}:${part.caller?.line}`;
    const group = groups.get(key);
    if (group) group.push(part);
    else groups.set(key, [part]);
  }
  return [...groups.values()].map((group) => {
    const { template, file, caller } = group[0]!;
    const inside = group.flatMap((part) => part.parts);
    const entries = entriesOf(inside, own, bytesOf);
    const milliseconds = sum(group, (part) => part.milliseconds);
    return {
      template,
      file,
      caller,
      calls: group.length,
      bytes: sum(group, ({ start, end }) => bytesOf(start, end)),
      ownBytes: sum(group, (part) => own.get(part) ?? 0),
      milliseconds,
      ownMilliseconds: Math.max(0, milliseconds - sum(entries, (one) => one.milliseconds)),
      entries,
    };
  });
}

function sum<Item>(items: readonly Item[], number: (item: Item) => number): number {
  return items.reduce((total, item) => total + number(item), 0);
}
