/** The library’s own command, `build`, and the way to all others: the tools, where they are installed. */
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { LoomError } from '../diagnostics/index.ts';
import { failureText, startedIn, systemErrorText } from '../node/index.ts';
import { build } from './build.ts';
import type { Streams } from './streams.ts';
import { versionOf } from './version.ts';

/** The exports of the tools. */
interface Tools {
  run(words: readonly string[], streams: Streams): Promise<number>;
  version: string;
}

/** Runs the command that the words after `zip-loom` call. @returns the exit code */
export async function run(words: readonly string[], streams: Streams): Promise<number> {
  const tell = (lines: string) => void streams.stderr.write(`${lines}\n`);
  const at = words.findIndex((word, index) => !word.startsWith('-') && words[index - 1] !== '--project');
  const command = words[at];
  try {
    if (command === 'build') return await startedIn(streams.cwd, () => build(words.toSpliced(at, 1), streams));
    if (command === 'help' && words[at + 1] === 'build') return await build(['--help'], streams);
    const tools = await installedTools(streams.cwd);
    if (tools?.version === versionOf()) return await tools.run(words, streams);
    tell(tools === undefined ? withoutTools(command) : withOtherTools(tools.version));
    return command === undefined ? 0 : 2;
  } catch (error) {
    tell(failureText(error));
    return error instanceof LoomError || systemErrorText(error) !== undefined ? 2 : 1;
  }
}

function withoutTools(command: string | undefined): string {
  const found =
    command === undefined
      ? 'zip-loom build writes templates as modules; zip-loom build --help tells how.\nThe other commands'
      : `zip-loom ${command}`;
  return `${found} ${command === undefined ? 'are' : 'is'} in the package zip-loom-tools, which is not installed: npm install --save-dev zip-loom-tools`;
}

function withOtherTools(version: string): string {
  return `zip-loom-tools ${version} does not belong to zip-loom ${versionOf()}: npm install --save-dev zip-loom-tools@${versionOf()}`;
}

/** From the folder of the project, for they are installed beside the library; else from the library. */
async function installedTools(cwd: string): Promise<Tools | undefined> {
  for (const start of [pathToFileURL(join(cwd, 'package.json')), import.meta.url]) {
    let file: string;
    try {
      file = createRequire(start).resolve('zip-loom-tools');
    } catch {
      continue;
    }
    return (await import(pathToFileURL(file).href)) as Tools;
  }
  return undefined;
}
