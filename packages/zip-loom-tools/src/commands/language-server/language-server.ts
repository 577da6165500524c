/** `zip-loom language-server`: started by editors. */

import { Command } from 'commander';
import type { Terminal } from '../../console/index.ts';

export function languageServerCommand(terminal: Terminal): Command {
  return (
    new Command('language-server')
      .description('Serve editors, by the Language Server Protocol over standard input and output.')
      // Editors say so, and there is no other way.
      .option('--stdio', 'over standard input and output, as always')
      .addHelpText('after', '\nExample, as an editor starts it:\n  zip-loom language-server --stdio')
      .action(async () => {
        const { serveLanguage } = await import('../../language-server/index.ts');
        serveLanguage(terminal.streams);
      })
  );
}
