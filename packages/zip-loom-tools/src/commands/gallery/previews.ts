/** Pages and partials with their samples, as documents of their own. */
import { messageOf } from 'zip-loom/internal/diagnostics';
import type { Loom } from 'zip-loom/internal/loom';
import type { PagePaths } from 'zip-loom/internal/node';
import { type Project, renderPage, renderPartial, runsOf, type Samples } from '../../project/index.ts';

/** A template that is shown. */
export interface Shown {
  kind: 'page' | 'partial';
  name: string;
  /** Below the gallery, without ending: `pages/berths/list`. */
  path: string;
  /** The names of its samples; one without a name where it is shown without data. */
  samples: ReadonlyArray<string | undefined>;
}

export interface Preview {
  html: string;
  /** Why it cannot be shown. */
  problem?: string;
}

/** The project as it is now. */
export class Previews {
  readonly shown: readonly Shown[];
  private readonly loom: Loom;
  private readonly samples: ReadonlyMap<string, Samples>;
  /** What the pages of the project have in their heads. */
  private knownHead: Promise<string> | undefined;

  private constructor(loom: Loom, samples: ReadonlyMap<string, Samples>, { pathOf, pageAt }: PagePaths) {
    this.loom = loom;
    this.samples = samples;
    const pages = loom.pages().map((name) => this.shownOf('page', name, pathOf(name)));
    // A partial is shown with samples; without them there is nothing to show.
    const partials = [...samples.keys()].filter((path) => pageAt(path) === undefined).sort();
    this.shown = [...pages, ...partials.map((path) => this.shownOf('partial', path.split('/').at(-1)!, path))];
  }

  /** @throws {LoomError} where templates or samples cannot be read */
  static async of(project: Project): Promise<Previews> {
    const samples = await project.samples();
    return new Previews(await project.loom(), samples, project.pages);
  }

  private shownOf(kind: Shown['kind'], name: string, path: string): Shown {
    return { kind, name, path, samples: runsOf(name, this.samples.get(path)).map(({ sample }) => sample) };
  }

  async preview({ kind, name, path }: Shown, index: number): Promise<Preview> {
    const { data } = runsOf(name, this.samples.get(path))[index]!;
    try {
      if (kind === 'page') return { html: await renderPage(this.loom, name, data) };
      const html = await renderPartial(this.loom, name, data);
      this.knownHead ??= this.headOfPages();
      return {
        html: `<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<meta name="viewport" content="width=device-width, initial-scale=1">\n<title>${name}</title>\n${await this.knownHead}\n</head>\n<body>\n${within(html)}\n</body>\n</html>\n`,
      };
    } catch (error) {
      const problem = messageOf(error).split('\n\n')[0]!;
      return { html: problemPage(problem), problem };
    }
  }

  /** The style sheets of the first page that can be rendered: partials look as they do there. */
  private async headOfPages(): Promise<string> {
    for (const one of this.shown.filter(({ kind }) => kind === 'page')) {
      const { html, problem } = await this.preview(one, 0);
      const sheets = html.match(/<link\b[^>]*\brel="stylesheet"[^>]*>|<style\b[\s\S]*?<\/style>/gi);
      if (problem === undefined && sheets) return sheets.join('\n');
    }
    return '';
  }
}

/** What an element has to be in (HTML §4): a row in a table, an item in a list. */
const around: Readonly<Record<string, readonly [before: string, after: string]>> = {
  tr: ['<table><tbody>', '</tbody></table>'],
  td: ['<table><tbody><tr>', '</tr></tbody></table>'],
  th: ['<table><thead><tr>', '</tr></thead></table>'],
  tbody: ['<table>', '</table>'],
  thead: ['<table>', '</table>'],
  li: ['<ul>', '</ul>'],
  dt: ['<dl>', '</dl>'],
  dd: ['<dl>', '</dl>'],
  option: ['<select>', '</select>'],
};

function within(html: string): string {
  const [, name = ''] = /^\s*<([a-z0-9]+)/i.exec(html) ?? [];
  const [before, after] = around[name.toLowerCase()] ?? ['', ''];
  return before + html + after;
}

function problemPage(problem: string): string {
  const text = problem.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  return `<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>A problem</title>\n<style>:root { color-scheme: light dark; } pre { font: 14px/1.5 ui-monospace, monospace; margin: 1rem; white-space: pre-wrap; }</style>\n</head>\n<body>\n<pre>${text}</pre>\n</body>\n</html>\n`;
}
