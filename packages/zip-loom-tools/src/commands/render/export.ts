import { counted, kilobytes, messageOf } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { colours, type Terminal } from '../../console/index.ts';
import { addressOf, type Project, renderPage, ServedFiles } from '../../project/index.ts';
import { type LostLink, lostLinks, type SitePage } from './links.ts';
import { assertSiteFolder, type SiteFiles, writeSite } from './write-site.ts';

/** More are told as a number. */
const [mostLinks, mostPages] = [30, 3];

interface Failed {
  page: string;
  reason: string;
}

/** @throws {LoomError} for a folder that holds other files */
export async function exportSite(
  terminal: Terminal,
  project: Project,
  out: string,
  { force = false, json = false }: { force?: boolean; json?: boolean },
): Promise<void> {
  assertSiteFolder(out, force);
  const { base = '' } = project.options;
  const { pages, failed } = await renderAll(terminal, project);
  const served = new ServedFiles(project.options).all();
  const names = new Set(pages.map(({ name }) => name));
  const files = new Map<string, SiteFiles extends ReadonlyMap<string, infer File> ? File : never>();
  for (const { path, file } of served) {
    const below = path.slice(base.length + 1);
    // The pages of a designer are in the folder of what they name; they are the site’s own now.
    if (!names.has(below.replace(/\.html?$/i, ''))) files.set(below, { copyOf: file });
  }
  for (const { name, html } of pages) files.set(fileOf(name), { text: html });
  const lost = lostLinks(pages, (path) => files.has(path.slice(base.length + 1)));
  writeSite(out, files, force);
  const bytes = pages.reduce((sum, { html }) => sum + Buffer.byteLength(html), 0);
  const shown = shownPath(out);
  if (json)
    terminal.print(
      JSON.stringify({ pages: pages.map(({ path }) => path), files: [...files.keys()], lost, failed }, null, 2),
    );
  else {
    for (const line of [...lostInWords(lost), ...failed.map(failedInWords)]) terminal.print(line);
    if (lost.length + failed.length > 0) terminal.print('');
    const others = files.size - pages.length;
    terminal.print(
      `${counted(pages.length, 'page')} of ${kilobytes(bytes)} and ${counted(others, 'other file')} in ${shown}.`,
    );
    if (lost.length === 0) terminal.print('All links between them lead somewhere.');
  }
  if (lost.length + failed.length > 0) terminal.exitCode = 1;
}

interface RenderedPage extends SitePage {
  name: string;
}

async function renderAll(terminal: Terminal, project: Project): Promise<{ pages: RenderedPage[]; failed: Failed[] }> {
  const { options } = project;
  const loom = await project.loom();
  const samples = await project.samples();
  const names = loom.pages().filter((name) => name !== options.errorPage);
  const progress = terminal.progress('Rendering');
  const pages: RenderedPage[] = [];
  const failed: Failed[] = [];
  for (const [at, name] of names.entries()) {
    const path = (options.base ?? '') + addressOf(name);
    const data = samples.get(project.pages.pathOf(name))?.values().next().value ?? {};
    try {
      pages.push({ name, path, html: await renderPage(loom, name, data, encodeURI(path)) });
    } catch (error) {
      failed.push({ page: name, reason: messageOf(error).split('\n\n')[0]! });
    }
    progress.tell(at + 1, names.length);
  }
  progress.end();
  return { pages, failed };
}

/** Servers of files find `/about` so, and `404.html` where there is nothing. */
function fileOf(name: string): string {
  if (name === '404') return '404.html';
  return name === 'index' || name.endsWith('/index') ? `${name}.html` : `${name}/index.html`;
}

/** Each URL with the pages that it is on. */
function lostInWords(lost: readonly LostLink[]): string[] {
  const groups = new Map<string, string[]>();
  for (const { page, url, isFragment } of lost) {
    const what = `${colours.bold(url)}  ${isFragment ? 'names a part that the page does not have' : 'leads nowhere'}`;
    groups.set(what, [...(groups.get(what) ?? []), page]);
  }
  const lines = [...groups].map(([what, pages]) => {
    const others = pages.length > mostPages ? ` and ${pages.length - mostPages} more` : '';
    return `${what}: on ${pages.slice(0, mostPages).join(', ')}${others}`;
  });
  return lines.length > mostLinks ? [...lines.slice(0, mostLinks), `and ${lines.length - mostLinks} more`] : lines;
}

function failedInWords({ page, reason }: Failed): string {
  return `${colours.bold(page)}  cannot be rendered\n${reason}`;
}
