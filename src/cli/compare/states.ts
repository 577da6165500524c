/** Two states of the templates, and what every page of them renders. */
import { readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { messageOf } from '../../diagnostics/index.ts';
import { createLoom, filesBelow, type NodeLoomOptions, pagePaths, type Samples, urlPath } from '../../node/index.ts';
import { renderPage, runsOf } from '../sample-pages.ts';

/** Templates by their paths. */
export type State = Readonly<Record<string, string>>;

export function stateOf(folder: string): State {
  const files = filesBelow(folder).filter((file) => file.endsWith('.html'));
  return Object.fromEntries(files.map((file) => [urlPath(relative(folder, file)), readFileSync(file, 'utf8')]));
}

export interface Compared {
  page: string;
  /** The name of the sample; `undefined` where the page was rendered without data. */
  sample: string | undefined;
  /** What was rendered, or why that failed. */
  before: Rendered;
  after: Rendered;
}

export type Rendered = { html: string } | { failure: string } | undefined;

/**
 * Renders every page of either state, with each of its samples.
 * @param onDone told how far it has come
 */
export async function comparePages(
  states: readonly [State, State],
  samples: ReadonlyMap<string, Samples>,
  { templates: _, ...options }: NodeLoomOptions,
  onDone: (done: number, all: number) => void,
): Promise<Compared[]> {
  const looms = await Promise.all(
    // What fails is told in the result.
    states.map((sources) => createLoom({ ...options, sources: { ...sources }, mode: 'development', logger: false })),
  );
  const { pathOf, pageAt } = pagePaths(options);
  const pagesOf = (state: State) => Object.keys(state).flatMap((path) => pageAt(path.replace(/\.html$/, '')) ?? []);
  const pages = [...new Set(states.flatMap(pagesOf))].sort();
  const runs = pages.flatMap((page) => runsOf(page, samples.get(pathOf(page))));
  const compared: Compared[] = [];
  for (const { name: page, sample, data } of runs) {
    const [before, after] = await Promise.all(
      states.map(async (state, at): Promise<Rendered> => {
        if (!(`${pathOf(page)}.html` in state)) return undefined;
        try {
          return { html: await renderPage(looms[at]!, page, data) };
        } catch (error) {
          return { failure: messageOf(error).split('\n\n')[0]! };
        }
      }),
    );
    compared.push({ page, sample, before, after });
    onDone(compared.length, runs.length);
  }
  return compared;
}
