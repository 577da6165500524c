/** How soon the language server answers in a project of 500 templates, after each change of a text. */
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createMessageConnection, StreamMessageReader, StreamMessageWriter } from 'vscode-jsonrpc/node';
import { manyTemplates } from './support/many-templates.ts';
import { median } from './support/measure.ts';

const count = 500;
const rounds = 21;

export async function printEditor(print: (line: string) => void): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zip-loom-editor-'));
  for (const [path, text] of Object.entries(manyTemplates(count))) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  mkdirSync(join(folder, 'node_modules'));
  symlinkSync(resolve('.'), join(folder, 'node_modules/zip-loom'));
  const child = spawn(
    process.execPath,
    [resolve('packages/zip-loom/dist/command/main.js'), 'language-server', '--stdio'],
    { cwd: folder },
  );
  const connection = createMessageConnection(
    new StreamMessageReader(child.stdout),
    new StreamMessageWriter(child.stdin),
  );
  connection.listen();
  await connection.sendRequest('initialize', {
    processId: process.pid,
    rootUri: pathToFileURL(folder).href,
    capabilities: {},
  });
  await connection.sendNotification('initialized', {});
  const uri = pathToFileURL(join(folder, 'templates/pages/page-7.html')).href;
  const text = manyTemplates(count)['templates/pages/page-7.html']!;
  await connection.sendNotification('textDocument/didOpen', {
    textDocument: { uri, languageId: 'html', version: 1, text },
  });
  /** The place in a line of the page, so many characters behind where a text begins. */
  const placeOf = (begin: string, behind: number) => {
    const lines = text.split('\n');
    const line = lines.findIndex((one) => one.includes(begin));
    return { line, character: lines[line]!.indexOf(begin) + behind };
  };
  const call = placeOf('<part-7', 4);
  const field = placeOf('berth.price', 'berth.pr'.length);
  const questions = [
    ['completion', 'completion of a partial', call],
    ['completion', 'completion of a field', field],
    ['hover', 'hover of a partial', call],
    ['hover', 'hover of a field', field],
    ['definition', 'definition of a partial', call],
    ['definition', 'definition of a field', field],
    ['references', 'references of a partial', call],
    ['semanticTokens/full', 'colours of a page', call],
  ] as const;
  let version = 1;
  for (const [method, name, position] of questions) {
    const times: number[] = [];
    for (let round = 0; round <= rounds; round++) {
      const contentChanges = [{ text: `${text}<p>${name} ${round}</p>` }];
      version += 1;
      await connection.sendNotification('textDocument/didChange', { textDocument: { uri, version }, contentChanges });
      const start = performance.now();
      await connection.sendRequest(`textDocument/${method}`, {
        textDocument: { uri },
        position,
        context: { includeDeclaration: true },
      });
      // The first one reads everything.
      if (round > 0) times.push(performance.now() - start);
      await new Promise((later) => setTimeout(later, 120));
    }
    const time = median(times);
    print(
      `${name} after a change, among ${count} templates: ${time.toFixed(0)} ms (goal: 100)${time <= 100 ? '' : '  missed'}`,
    );
  }
  await connection.sendRequest('shutdown');
  await connection.sendNotification('exit');
  rmSync(folder, { recursive: true, force: true, maxRetries: 10, retryDelay: 50 });
}
