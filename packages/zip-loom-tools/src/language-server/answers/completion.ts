/** What can be written at a place. */
import { type CompletionItem, CompletionItemKind } from 'vscode-languageserver/node';
import { type Completion, completionsAt, cursorAt, finishedTexts, isTyped } from '../../analysis/index.ts';
import type { TypedName } from '../../checking/index.ts';
import type { TemplateAsked } from './asked.ts';

const kinds: Readonly<Record<Completion['kind'] | TypedName['kind'], CompletionItemKind>> = {
  template: CompletionItemKind.Class,
  parameter: CompletionItemKind.Property,
  clause: CompletionItemKind.Keyword,
  slot: CompletionItemKind.Field,
  name: CompletionItemKind.Variable,
  helper: CompletionItemKind.Function,
  file: CompletionItemKind.File,
  region: CompletionItemKind.Reference,
  field: CompletionItemKind.Field,
  method: CompletionItemKind.Method,
  text: CompletionItemKind.Value,
};

export async function completion(asked: TemplateAsked): Promise<CompletionItem[]> {
  const { workspace, document, file, offset } = asked;
  const own = completionsAt(workspace.compilation, file, document.getText(), offset);
  const typed = own.length > 0 ? [] : await typedCompletions(asked);
  return [...own, ...typed].map(({ label, kind, detail, start, text }) => ({
    label,
    kind: kinds[kind],
    ...(detail === '' ? {} : { detail }),
    textEdit: { range: { start: document.positionAt(start), end: document.positionAt(offset) }, newText: text },
  }));
}

/** Fields of values and names of a form’s fields, as TypeScript knows them. */
async function typedCompletions({ workspace, document, file, offset }: TemplateAsked) {
  const source = document.getText();
  const cursor = cursorAt(source, offset);
  const { questions } = workspace;
  if (!cursor || !questions || !isTyped(cursor)) return [];
  for (const text of finishedTexts(source, offset, cursor)) {
    const names = await questions.completions({ compilation: workspace.supposing(file, text), file, offset });
    if (names.length === 0) continue;
    return names.map((one) => {
      // An optional value has `?.name`, in place of the dot.
      const start = one.text.startsWith('?.') ? source.lastIndexOf('.', cursor.start) : cursor.start;
      return { label: one.name, kind: one.kind, detail: '', start, text: one.text };
    });
  }
  return [];
}
