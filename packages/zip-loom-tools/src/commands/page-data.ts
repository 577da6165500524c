/** The data of a page as a command is given it: a file, standard input, or a sample. */
import { readFileSync } from 'node:fs';
import type { Command } from 'commander';
import { LoomError, type TemplateError } from 'zip-loom/internal/diagnostics';
import { commandDiagnostic, type Terminal } from '../console/index.ts';
import type { Project } from '../project/index.ts';

export interface DataOptions {
  data?: string;
  sample?: string;
}

export function withDataOptions(command: Command): Command {
  return command
    .option('--data <file>', 'its data: a JSON file, or - for standard input')
    .option(
      '--sample <name>',
      'its data: a sample of the file beside it, list.samples.json; without --data, the first one',
    );
}

/** @throws {LoomError} for data that cannot be read, and for a sample that there is none of */
export async function dataFor(
  terminal: Terminal,
  page: string,
  { data, sample }: DataOptions,
  project: Project,
): Promise<object> {
  return data === undefined ? sampleOf(page, sample, project) : readData(terminal, data);
}

/** Without a sample there is no data. */
async function sampleOf(page: string, name: string | undefined, project: Project): Promise<object> {
  const samples = (await project.samples()).get(project.pages.pathOf(page));
  if (name === undefined) return samples?.values().next().value ?? {};
  const known = [...(samples?.keys() ?? [])];
  const data = samples?.get(name);
  if (!data) throw new LoomError(commandDiagnostic('unknown-sample', { page, name, known }));
  return data;
}

/** What to do on the command line about data that is missing, or too much. */
export function hintAboutData({ diagnostic: { code, facts } }: TemplateError): string | undefined {
  if (code === 'unknown-argument') return 'Leave it out of the data of --data, or add it to the template’s (takes …).';
  if (code !== 'missing-argument') return undefined;
  const { missing } = facts as { missing?: readonly string[] };
  if (!missing) return undefined;
  const example = Object.fromEntries(missing.map((name) => [name, '…']));
  return `Give it with --data: a JSON file, or - for standard input, such as ${JSON.stringify(example)}.`;
}

async function readData(terminal: Terminal, file: string): Promise<object> {
  let text: string;
  try {
    text = file === '-' ? await terminal.readInput() : readFileSync(terminal.path(file), 'utf8');
  } catch (error) {
    throw new LoomError(commandDiagnostic('unreadable-data', { file, reason: reasonOf(error) }));
  }
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new LoomError(commandDiagnostic('invalid-data', { file: nameOf(file), reason: reasonOf(error) }));
  }
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    throw new LoomError(commandDiagnostic('invalid-data', { file: nameOf(file), reason: undefined }));
  }
  return data;
}

function nameOf(file: string): string {
  return file === '-' ? 'standard input' : file;
}

function reasonOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
