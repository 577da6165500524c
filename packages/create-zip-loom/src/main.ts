#!/usr/bin/env node
/** The command line: `npm create zip-loom my-site`. Exit codes: 0 for success, 2 when the call was wrong. */
import { createProject, Refusal } from './create-project.ts';
import { help, settingsOf } from './settings.ts';

try {
  const settings = settingsOf(process.argv.slice(2));
  console.log(settings === 'help' ? help : createProject(process.cwd(), settings));
} catch (error) {
  if (!(error instanceof Refusal)) throw error;
  console.error(error.message);
  process.exitCode = 2;
}
