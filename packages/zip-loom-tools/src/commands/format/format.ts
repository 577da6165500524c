/** `zip-loom format`: templates laid out evenly, and the proof that they say the same. */
import { readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { Command } from 'commander';
import { counted, LoomError, placed, TemplateError } from 'zip-loom/internal/diagnostics';
import { parseTemplate } from 'zip-loom/internal/language';
import { filesBelow, shownPath, urlPath, writeTemplates } from 'zip-loom/internal/node';
import { formatted, isSameButForSpace } from '../../analysis/index.ts';
import { commandDiagnostic, type Terminal } from '../../console/index.ts';
import { isWithin, type Project } from '../../project/index.ts';
import { comparePages, stateOf } from '../compare/states.ts';
import { ownProject } from '../own-project.ts';
import { isSamePage } from './same-page.ts';

interface Options {
  check?: boolean;
  json?: boolean;
}

export function formatCommand(terminal: Terminal): Command {
  return new Command('format')
    .description('Lay templates out evenly. What they print stays the same but for whitespace, and that is proved.')
    .argument('[files...]', 'these templates, or those below these folders; default: all of the project')
    .option('--check', 'write nothing, and tell which templates would change')
    .option('--json', 'print the result as JSON')
    .addHelpText('after', '\nExamples:\n  zip-loom format\n  zip-loom format --check templates/pages')
    .action((files: string[], options: Options, command: Command) => format(terminal, files, options, command));
}

async function format(terminal: Terminal, files: string[], options: Options, command: Command): Promise<void> {
  const project = await ownProject(terminal, command);
  const folder = project.templates;
  const all = filesBelow(folder).filter((file) => file.endsWith('.html'));
  const wanted = files.map((file) => terminal.path(file));
  const unknown = wanted.find((one) => !all.some((file) => isWithin(file, one)));
  if (unknown !== undefined) throw new LoomError(commandDiagnostic('unknown-file', { file: shownPath(unknown) }));
  const chosen = all.filter((file) => wanted.length === 0 || wanted.some((one) => isWithin(file, one)));
  const { changes, broken } = laidOut(chosen, project);
  for (const error of broken) terminal.tellError(error);
  if (options.check !== true && changes.size > 0) {
    await assertSamePages(terminal, project, changes);
    writeTemplates(folder, changes);
  }
  const names = [...changes.keys()].map((file) => shownPath(file));
  if (options.json) terminal.printJSON({ changed: names, broken: broken.map(({ file }) => file) });
  else {
    for (const name of names) terminal.print(name);
    if (names.length > 0) terminal.print('');
    terminal.print(summary(changes.size, chosen.length, options.check ?? false));
  }
  if (broken.length > 0 || (options.check && changes.size > 0)) terminal.exitCode = 1;
}

function summary(changed: number, all: number, isCheck: boolean): string {
  if (changed === 0)
    return `All ${counted(all, 'template')} are laid out.`.replace('All 1 template are', 'The template is');
  return isCheck
    ? `${changed} of ${counted(all, 'template')} would be laid out otherwise.`
    : `${changed} of ${counted(all, 'template')} laid out, and every page that could be rendered shows the same.`;
}

/** The new text of each template that changes. One that cannot be read is left as it is. */
function laidOut(
  files: readonly string[],
  { options }: Project,
): { changes: Map<string, string>; broken: TemplateError[] } {
  const changes = new Map<string, string>();
  const broken: TemplateError[] = [];
  for (const path of files) {
    const source = readFileSync(path, 'utf8');
    const file = shownPath(path);
    const read = (text: string) => parseTemplate(text, file, { elements: options.elements ?? [] });
    const { tree, diagnostics } = read(source);
    const [first, ...others] = diagnostics;
    if (first) {
      broken.push(
        new TemplateError(first, { source, others: others.map((one) => new TemplateError(one, { source })) }),
      );
      continue;
    }
    const text = formatted(tree);
    if (text === source) continue;
    const after = read(text);
    // Never seen; a template is worth more than its layout.
    if (after.diagnostics.length > 0 || !isSameButForSpace(tree, after.tree))
      broken.push(
        new TemplateError(placed(commandDiagnostic('ambiguous-layout', {}), file, { start: 0, end: 1 }), { source }),
      );
    else changes.set(path, text);
  }
  return { changes, broken };
}

/** @throws {LoomError} for a page that would be shown otherwise */
async function assertSamePages(
  terminal: Terminal,
  project: Project,
  changes: ReadonlyMap<string, string>,
): Promise<void> {
  const before = stateOf(project.templates);
  const after = { ...before };
  for (const [path, text] of changes) after[urlPath(relative(project.templates, path))] = text;
  const progress = terminal.progress('Rendering');
  const compared = await comparePages(project, [before, after], progress.tell);
  progress.end();
  for (const { page, before: one, after: other } of compared) {
    const [was, is] = [one, other].map((rendered) => (rendered && 'html' in rendered ? rendered.html : undefined));
    if (was !== is && !(was !== undefined && is !== undefined && isSamePage(was, is)))
      throw new LoomError(commandDiagnostic('changed-page', { page }));
  }
}
