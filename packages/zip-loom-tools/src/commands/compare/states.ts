/** Two states of the templates, and what every page of them renders. */

import { readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { messageOf } from 'zip-loom/internal/diagnostics';
import { filesBelow, urlPath } from 'zip-loom/internal/node';
import type { Project } from '../../project/index.ts';
import { renderPage, runsOf } from '../../project/index.ts';

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
  project: Project,
  states: readonly [State, State],
  onDone: (done: number, all: number) => void,
): Promise<Compared[]> {
  const samples = await project.samples();
  const looms = await Promise.all(states.map((sources) => project.loom({ ...sources })));
  const { pathOf, pageAt } = project.pages;
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
