/**
 * `npm run bench`: every measurement beside its bare or hand-written equivalent, in one run. Ratios are those of medians. `npm run bench
 * load` measures servers under load alone, `npm run bench channels` channels alone, `npm run bench checking` the checker alone, `npm run bench vite` changed templates in the open page alone, `npm run bench editor` the language server alone, `npm run bench uploads` files alone, `npm run bench forms` forms alone, `npm run bench client`
 * the client in browsers.
 */
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { printChannels } from './channels.ts';
import { printChecking } from './checking.ts';
import { printClient } from './client.ts';
import { compilingResult, startingResult } from './compiling.ts';
import { printEditor } from './editor.ts';
import { developmentLine, firstPageResult, importResult, placesComparison } from './growth.ts';
import { growthOfLists, listComparison } from './lists.ts';
import { loadHeading, loadResults, loadRow } from './load.ts';
import { mergingResults } from './merging.ts';
import { openStreamsLine } from './open-streams.ts';
import { boundForm, pageComparisons } from './pages.ts';
import { readingComparison } from './reading.ts';
import { renderingComparisons } from './rendering.ts';
import { fairnessResult, firstByteResults, memoryLine, waitingComparison } from './streaming.ts';
import { compare, heading, type Result, row } from './support/measure.ts';
import { assertSame } from './support/same-page.ts';
import { updateComparisons } from './updates.ts';
import { printUploads } from './uploads.ts';
import { printVite } from './vite.ts';

const lines: string[] = [];
const print = (line: string) => {
  console.log(line);
  lines.push(line);
};
const printResult = (result: Result) => print(row(result));

print(`Node ${process.versions.node}, ${cpus()[0]?.model.trim()}, ${cpus().length} cores, ${process.platform}`);
if (process.argv.includes('client')) await measureClient();
else if (process.argv.includes('forms')) await measureForms();
else if (process.argv.includes('channels')) await printChannels(print);
else if (process.argv.includes('checking')) printChecking(print);
else if (process.argv.includes('uploads')) await printUploads(print);
else if (process.argv.includes('vite')) await printVite(print);
else if (process.argv.includes('editor')) await printEditor(print);
else await measureServers();

writeFileSync('build/bench.txt', `${lines.join('\n')}\n`);

async function measureServers(): Promise<void> {
  print(loadHeading);
  await loadResults((result) => print(loadRow(result)));
  print(await openStreamsLine());
  if (process.argv.includes('load')) return;
  await measureOthers();
  await printUploads(print);
  await printChannels(print);
  printChecking(print);
  await printVite(print);
  await printEditor(print);
  await measureClient();
}

async function measureForms(): Promise<void> {
  print(heading);
  for (const comparison of [await boundForm(), await readingComparison(), await listComparison()])
    printResult(await compare(comparison));
  print(await growthOfLists());
}

async function measureClient(): Promise<void> {
  print(heading);
  (await mergingResults()).forEach(printResult);
  await printClient(print);
}

async function measureOthers(): Promise<void> {
  print('');
  print(heading);
  const pages = [...(await renderingComparisons()), ...(await pageComparisons())];
  pages.forEach(assertSame);
  const others = [await readingComparison(), await waitingComparison(), await placesComparison()];
  for (const comparison of [...pages, ...(await updateComparisons()), ...others])
    printResult(await compare(comparison));
  printResult(compilingResult());
  printResult(startingResult());
  printResult(importResult());
  printResult(await firstPageResult());
  print(await developmentLine());
  (await firstByteResults()).forEach(printResult);
  printResult(await fairnessResult());
  print(memoryLine());
}
