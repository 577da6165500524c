/** Starts the language server of the library that the open folder has installed. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type ExtensionContext, window, workspace } from 'vscode';
import { LanguageClient, TransportKind } from 'vscode-languageclient/node';

let client: LanguageClient | undefined;

export async function activate(context: ExtensionContext): Promise<void> {
  const module = serverScript(context.extensionPath);
  if (module === undefined) {
    void window.showWarningMessage('Zip Loom is not installed in this folder: run “npm install zip-loom” and “npm install --save-dev zip-loom-tools”.');
    return;
  }
  client = new LanguageClient(
    'zip-loom',
    'Zip Loom',
    { module, args: ['language-server'], transport: TransportKind.stdio },
    {
      documentSelector: [
        { scheme: 'file', language: 'html' },
        { scheme: 'file', language: 'typescript' },
        { scheme: 'file', language: 'javascript' },
      ],
    },
  );
  await client.start();
}

export function deactivate(): Promise<void> | undefined {
  return client?.stop();
}

/** What the settings name, that of an open folder, or the one beside this extension. */
function serverScript(extensionPath: string): string | undefined {
  const chosen = workspace.getConfiguration('zipLoom').get<string>('server');
  const folders = (workspace.workspaceFolders ?? []).map(({ uri }) => uri.fsPath);
  return [
    ...(chosen ? [chosen] : []),
    ...folders.map((folder) => join(folder, 'node_modules/zip-loom/dist/command/main.js')),
    // Both packages are installed beside each other.
    join(extensionPath, '../../../zip-loom/dist/command/main.js'),
  ].find(existsSync);
}
