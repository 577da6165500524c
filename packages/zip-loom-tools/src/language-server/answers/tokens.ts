/** What the words of a template mean, as the protocol counts it: each token from the one before (LSP 3.17, semantic tokens). */
import { type SemanticTokens, SemanticTokensBuilder } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { semanticTokens, tokenTypes } from '../../analysis/index.ts';
import type { Workspace } from '../workspace.ts';

export function tokens(workspace: Workspace, document: TextDocument, file: string): SemanticTokens {
  const builder = new SemanticTokensBuilder();
  for (const { start, end, type } of semanticTokens(workspace.compilation, file)) {
    const from = document.positionAt(start);
    // No token may be longer than its line.
    if (document.positionAt(end).line === from.line)
      builder.push(from.line, from.character, end - start, tokenTypes.indexOf(type), 0);
  }
  return builder.build();
}
