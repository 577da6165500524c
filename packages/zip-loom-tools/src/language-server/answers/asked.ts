/** A place that an editor asks about: in a template, or in a script of the project. */
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { type EditorSymbol, namedByCode, namesInCode, symbolAt } from '../../analysis/index.ts';
import type { TemplatePlace } from '../../checking/index.ts';
import type { Workspace } from '../workspace.ts';

export interface Asked {
  workspace: Workspace;
  document: TextDocument;
  /** The template, as messages name it; `undefined` for a script. */
  file: string | undefined;
  offset: number;
}

/** A place in a template. */
export type TemplateAsked = Asked & { file: string };

/** What stands there. In a script, that can be the name of a template: `put('arrival-row', …)`. */
export function symbolOf({ workspace, document, file, offset }: Asked): EditorSymbol | undefined {
  const { compilation } = workspace;
  if (file !== undefined) return symbolAt(compilation, file, offset);
  const name = namesInCode(document.getText(), document.uri).find(({ start, end }) => start <= offset && offset <= end);
  const template = name && namedByCode(compilation.set, name);
  return template && { kind: 'template', template, span: { start: name.start, end: name.end } };
}

/** The same place, as TypeScript is asked about it; of scripts, an editor asks it itself. */
export function typedPlace({ workspace, file, offset }: Asked): TemplatePlace | undefined {
  return file === undefined ? undefined : { compilation: workspace.compilation, file, offset };
}
