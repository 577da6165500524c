/** Which names a template’s own code uses. */
import { clausesOf, continuesName, type TemplateTree, walk } from '../../language/index.ts';

/** The code of all expressions and clauses of some files. */
export function codeOf(trees: Iterable<TemplateTree>): string {
  const codes: string[] = [];
  for (const { children, source } of trees) {
    walk(children, {
      element(element) {
        // Clauses bind names too.
        for (const { start, end } of clausesOf(element)) codes.push(source.slice(start, end));
        return undefined;
      },
      expression({ code }) {
        codes.push(code);
      },
    });
  }
  return codes.join('\n');
}

/** All words in some code that a name could be, wherever they are: rather too many than too few. */
export function identifiersIn(code: string): ReadonlySet<string> {
  const words = new Set<string>();
  for (let at = 0; at < code.length; ) {
    if (!isOfWord(code.charCodeAt(at))) {
      at++;
      continue;
    }
    const start = at;
    while (isOfWord(code.charCodeAt(at))) at++;
    words.add(code.slice(start, at));
  }
  return words;
}

/** Letters beyond ASCII are taken for parts of words. */
function isOfWord(code: number): boolean {
  return continuesName(code) || code >= 0x80;
}
