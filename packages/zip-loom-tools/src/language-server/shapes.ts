/** Shapes of the protocol. */

import { pathToFileURL } from 'node:url';
import {
  type Diagnostic,
  DiagnosticSeverity,
  type Location,
  type Range,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import type { Span, TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { pathOf } from 'zip-loom/internal/node';
import type { FilePlace, Renaming } from '../analysis/index.ts';

/** Who knows the lines of files. */
interface Lined {
  rangeOf(file: string, span: Span): Range;
}

/** The URI of a file, as messages name it. */
export function uriOf(file: string): string {
  return pathToFileURL(pathOf(file)).href;
}

export function rangeOfSpan(document: TextDocument, { start, end }: Span): Range {
  return { start: document.positionAt(start), end: document.positionAt(end) };
}

export function diagnosticOf(
  { code, severity, message, hint, file, span }: TemplateDiagnostic,
  lined: Lined,
): Diagnostic {
  return {
    range: lined.rangeOf(file, span),
    severity: severity === 'error' ? DiagnosticSeverity.Error : DiagnosticSeverity.Warning,
    code,
    source: 'zip-loom',
    message: hint === '' ? message : `${message} ${hint}`,
  };
}

export function locationOf(place: FilePlace, lined: Lined): Location {
  return { uri: uriOf(place.file), range: lined.rangeOf(place.file, place) };
}

interface FileChanges extends Renaming {
  /** A file that is made. */
  created?: { file: string; text: string };
}

export function editOf({ edits, file, created }: FileChanges, lined: Lined): WorkspaceEdit {
  const files = [...new Set(edits.map((edit) => edit.file))];
  const changes = files.map((name) => ({
    textDocument: { uri: uriOf(name), version: null },
    edits: edits
      .filter((edit) => edit.file === name)
      .map((edit) => ({ range: lined.rangeOf(name, edit), newText: edit.text })),
  }));
  const start = { line: 0, character: 0 };
  const made = created
    ? [
        { kind: 'create' as const, uri: uriOf(created.file) },
        {
          textDocument: { uri: uriOf(created.file), version: null },
          edits: [{ range: { start, end: start }, newText: created.text }],
        },
      ]
    : [];
  const moved = file ? [{ kind: 'rename' as const, oldUri: uriOf(file.from), newUri: uriOf(file.to) }] : [];
  return { documentChanges: [...made, ...changes, ...moved] };
}
