/** What an editor can do about a part of a template: fixes, offers, and a part that becomes a partial. */
import { type CodeAction, CodeActionKind, type Range } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { type Edit, extraction, fixesOf, offersOf } from '../../analysis/index.ts';
import { diagnosticOf, editOf } from '../shapes.ts';
import type { Workspace } from '../workspace.ts';

export function actions(workspace: Workspace, document: TextDocument, file: string, range: Range): CodeAction[] {
  const selected = { start: document.offsetAt(range.start), end: document.offsetAt(range.end) };
  const { compilation } = workspace;
  const here = (workspace.diagnostics().get(file) ?? []).filter(
    ({ span }) => span.start <= selected.end && span.end >= selected.start,
  );
  const fixes = [
    ...fixesOf(here, compilation).map((fix) => ({ ...fix, title: titleOf(document, fix.edits), isSure: true })),
    ...offersOf(here, compilation).map((offer) => ({ ...offer, isSure: false })),
  ];
  const part = selected.end > selected.start ? extraction(compilation, file, selected) : undefined;
  return [
    ...fixes.map(
      ({ diagnostic, title, edits, isSure }): CodeAction => ({
        title,
        kind: CodeActionKind.QuickFix,
        diagnostics: [diagnosticOf(diagnostic, workspace)],
        isPreferred: isSure,
        edit: editOf({ edits: edits.map((edit) => ({ ...edit, file })) }, workspace),
      }),
    ),
    ...(part
      ? [
          {
            title: `Make this a partial, <${part.name}>`,
            kind: CodeActionKind.RefactorExtract,
            edit: editOf({ edits: [{ ...part.edit, file }], created: { file: part.file, text: part.text } }, workspace),
          },
        ]
      : []),
  ];
}

function titleOf(document: TextDocument, [first]: readonly Edit[]): string {
  const before = document.getText().slice(first!.start, first!.end);
  return before === '' ? `Add “${first!.text.trim()}”` : `Change “${before}” into “${first!.text}”`;
}
