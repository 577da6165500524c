/** `zip-loom gallery`: every page and partial with its samples, at three widths. */
import type { AddressInfo } from 'node:net';
import { basename } from 'node:path';
import { Command } from 'commander';

import { counted, LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { commandDiagnostic, type Terminal } from '../../console/index.ts';
import { type Project, ServedFiles } from '../../project/index.ts';
import { decodedPath } from '../decoded-path.ts';
import { ownProject } from '../own-project.ts';
import { assertSiteFolder, type SiteFiles, writeSite } from '../render/write-site.ts';
import { watchProject } from '../watch.ts';
import { galleryFiles, galleryPages } from './pages.ts';
import { Previews } from './previews.ts';
import { galleryServer } from './server.ts';

interface Options {
  port: string;
  out?: string;
  force?: boolean;
}

export function galleryCommand(terminal: Terminal): Command {
  return new Command('gallery')
    .description('Show every page and partial with its samples, at three widths, light and dark, as they change.')
    .option('--port <number>', 'where it listens on this machine', '4000')
    .option('--out <folder>', 'write it as static files instead')
    .option('--force', 'write over files that are there')
    .addHelpText('after', '\nExamples:\n  zip-loom gallery\n  zip-loom gallery --out build/gallery')
    .action((options: Options, command: Command) => gallery(terminal, options, command));
}

async function gallery(terminal: Terminal, options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const name = basename(project.folder);
  if (options.out !== undefined)
    return writeGallery(terminal, { project, name, out: terminal.path(options.out), isForced: options.force ?? false });
  if (!/^\d+$/.test(options.port) || Number(options.port) > 65_535)
    throw new LoomError(commandDiagnostic('invalid-port', { value: options.port }));
  const { server, changed } = galleryServer(project, name);
  await new Promise<void>((resolve, reject) => {
    server.once('error', ({ message }) =>
      reject(new LoomError(commandDiagnostic('closed-port', { port: options.port, reason: message }))),
    );
    server.listen(Number(options.port), '127.0.0.1', resolve);
  });
  const { port } = server.address() as AddressInfo;
  terminal.print(`The gallery of ${name} is open: http://localhost:${port}/`);
  await watchProject(terminal, project, { scripts: true }, async () => changed());
  server.close();
  server.closeAllConnections();
}

interface Written {
  project: Project;
  name: string;
  out: string;
  isForced: boolean;
}

async function writeGallery(terminal: Terminal, { project, name, out, isForced }: Written): Promise<void> {
  assertSiteFolder(out, isForced);
  const previews = await Previews.of(project);
  const pages = await galleryPages(name, previews.shown);
  const files = new Map<string, SiteFiles extends ReadonlyMap<string, infer File> ? File : never>();
  for (const [path, text] of Object.entries(galleryFiles)) files.set(path, { text });
  files.set('index.html', { text: await pages.index() });
  const served = new ServedFiles(project.options);
  const progress = terminal.progress('Rendering');
  const problems: string[] = [];
  for (const [at, one] of previews.shown.entries()) {
    files.set(`${one.path}.html`, { text: await pages.template(one) });
    for (const [index, sample] of one.samples.entries()) {
      const { html, problem } = await previews.preview(one, index);
      const path = `preview/${one.path}/${index}.html`;
      files.set(path, { text: withNearFiles(html, path, served) });
      if (problem !== undefined)
        problems.push(`${one.path}${sample === undefined ? '' : ` (${sample})`}  cannot be shown\n${problem}`);
    }
    progress.tell(at + 1, previews.shown.length);
  }
  progress.end();
  for (const { path, file } of served.all()) files.set(`files${path}`, { copyOf: file });
  writeSite(out, files, isForced);
  for (const problem of problems) terminal.print(`${problem}\n`);
  terminal.print(`${counted(previews.shown.length, 'template')} in ${shownPath(out)}: open index.html.`);
  if (problems.length > 0) terminal.exitCode = 1;
}

/** Files are named from where the preview is, so that it can be opened from anywhere. */
function withNearFiles(html: string, path: string, served: ServedFiles): string {
  const up = '../'.repeat(path.split('/').length - 1);
  return html.replace(/(\s(?:href|src)=")(\/[^"?#]*)/g, (whole, before: string, url: string) =>
    served.find(decodedPath(url)) === undefined ? whole : `${before}${up}files${url}`,
  );
}
