/** Another name for a template, a parameter or a slot, wherever it is named. */
import { ErrorCodes, type Range, ResponseError, type WorkspaceEdit } from 'vscode-languageserver/node';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { mayBeRenamed, renaming } from '../../analysis/index.ts';
import { editOf, rangeOfSpan } from '../shapes.ts';
import { type Asked, symbolOf } from './asked.ts';

/** What would be renamed; `null` where nothing can be. */
export function renamedRange(asked: Asked): Range | null {
  const symbol = symbolOf(asked);
  return symbol && mayBeRenamed(symbol) ? rangeOfSpan(asked.document, symbol.span) : null;
}

/** @throws {ResponseError} which says why a name does not do */
export function renamed(asked: Asked, name: string): WorkspaceEdit | null {
  const { workspace } = asked;
  const symbol = symbolOf(asked);
  if (!symbol) return null;
  try {
    return editOf(renaming(workspace.compilation, symbol, name, workspace.scripts()), workspace);
  } catch (error) {
    if (error instanceof LoomError) throw new ResponseError(ErrorCodes.InvalidParams, error.message);
    throw error;
  }
}
