/** Templates with the data of a sample, as tools render them. */
import { preparedData } from 'zip-loom/internal/forms';
import type { Loom } from 'zip-loom/internal/loom';

const noSamples: ReadonlyMap<string | undefined, object> = new Map([[undefined, {}]]);

/** A page or a partial with the data of one sample. */
export interface SampleRun {
  /** Of the page below the pages’ folder, or of the partial. */
  name: string;
  /** Missing where it is rendered without data. */
  sample: string | undefined;
  data: object;
}

/** The runs of a template: one for each of its samples, or one without data. */
export function runsOf(name: string, samples: ReadonlyMap<string, object> | undefined): SampleRun[] {
  return [...(samples ?? noSamples)].map(([sample, data]) => ({ name, sample, data }));
}

/**
 * A page as a visitor at some address gets it, with forms that have asked for their choices.
 * @throws {LoomError | TemplateError}
 */
export async function renderPage(loom: Loom, page: string, data: object, address = addressOf(page)): Promise<string> {
  const url = new URL(address, 'http://localhost/');
  return loom.render(page, await ready(loom, data, url), { context: { url } });
}

/** Where a page most likely is: `docs/index` at `/docs`. */
export function addressOf(page: string): string {
  return `/${page.replace(/(?:^|\/)index$/, '')}`;
}

/** The same for a partial. */
export async function renderPartial(loom: Loom, name: string, data: object): Promise<string> {
  const url = new URL('http://localhost/');
  return loom.renderTemplate(name, await ready(loom, data, url), { context: { url } });
}

async function ready(loom: Loom, data: object, url: URL): Promise<object> {
  const exchange = await loom.exchange(new Request(url));
  return (await preparedData(data, exchange)) ?? data;
}
