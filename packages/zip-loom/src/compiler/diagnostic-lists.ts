/** Lists of what is wrong. */
import type { TemplateDiagnostic } from '../diagnostics/index.ts';

/** By the name of the file. */
export function byFile(...lists: ReadonlyArray<readonly TemplateDiagnostic[]>): Map<string, TemplateDiagnostic[]> {
  const found = new Map<string, TemplateDiagnostic[]>();
  for (const diagnostic of lists.flat()) {
    const ofFile = found.get(diagnostic.file);
    if (ofFile) ofFile.push(diagnostic);
    else found.set(diagnostic.file, [diagnostic]);
  }
  return found;
}

/** Each once, in the order of files and places. */
export function inOrder(diagnostics: TemplateDiagnostic[]): TemplateDiagnostic[] {
  const seen = new Set<string>();
  const once = diagnostics.filter(({ file, span, code, message }) => {
    const key = `${file}\n${span.start}\n${code}\n${message}`;
    return !seen.has(key) && seen.add(key);
  });
  return once.sort((a, b) => (a.file === b.file ? a.span.start - b.span.start : a.file < b.file ? -1 : 1));
}
