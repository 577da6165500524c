#!/usr/bin/env node
/** The command line: `zip-loom <command>`. Exit codes: 0 for success, 1 when something was found, 2 when the call was wrong. */
import { versionOf } from './version.ts';

const words = process.argv.slice(2);
// Whoever asks for the version alone waits for nothing else.
if (/^(?:-v|--version)$/.test(words.join(' '))) console.log(versionOf());
else {
  // Whoever reads may have read enough, as `zip-loom check | head` has.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
    process.exit();
  });
  const { stdin, stdout, stderr } = process;
  process.exitCode = await (await import('./run.ts')).run(words, { cwd: process.cwd(), stdin, stdout, stderr });
}
