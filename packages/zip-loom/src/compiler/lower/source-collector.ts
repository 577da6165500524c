/** What a template loads and where it leads, as it is found. */
import type { PageSources } from '../../kernel/index.ts';

/** Collects sources; each once, in the order in which they are found. */
export class SourceCollector {
  private readonly found = new Map<string, Set<string>>();
  private needsNonce = false;

  add(directive: string, ...sources: string[]): void {
    const known = this.found.get(directive) ?? new Set();
    for (const source of sources) known.add(source);
    this.found.set(directive, known);
  }

  /** There is code whose text or URL is known only when the page is made. */
  askForNonce(): void {
    this.needsNonce = true;
  }

  sources(): PageSources {
    const directives = [...this.found].map(([name, sources]): [string, string[]] => [name, [...sources]]);
    return { directives: Object.fromEntries(directives), needsNonce: this.needsNonce };
  }
}
