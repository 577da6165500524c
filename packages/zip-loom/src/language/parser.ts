/**
 * Tokens → tree. Not the tree construction of a browser: elements are nested as they are written, with the end tags that
 * HTML lets authors leave out (§13.1.2.4), because that is what clauses, calls and slots need. Markup without any of them is
 * never refused.
 */

import {
  Lines,
  limitedReport,
  type Report,
  type TemplateDiagnostic,
  TooManyDiagnostics,
} from '../diagnostics/index.ts';
import { readingDiagnostic } from './diagnostics.ts';
import {
  emptyShapes,
  foreignBreakouts,
  isCallName,
  isJSONScriptType,
  mathIntegrationPoints,
  startEnds,
  svgIntegrationPoints,
  voidElements,
} from './elements.ts';
import { type EndTag, type StartTag, Tokenizer } from './tokenizer.ts';
import { modeInside } from './tokenizer-mode.ts';
import {
  attributeOf,
  clausesOf,
  type Element,
  fixedValue,
  type Namespace,
  nameSpan,
  type TagItem,
  type TemplateNode,
  type TemplateTree,
} from './tree.ts';

export interface ParseOptions {
  /** Names of custom elements that are the browser's own, so that `/>` means nothing on them. `*` stands for any text. */
  elements?: readonly string[];
  /** True to read HTML alone: no substitutions, clauses, calls or slots. */
  isPlain?: boolean;
}

/** The tree of a template and everything that is wrong with how it is written. */
export interface ParseResult {
  tree: TemplateTree;
  diagnostics: TemplateDiagnostic[];
}

/**
 * Parses one template.
 * @param source the text of the file
 * @param file its name in messages
 */
export function parseTemplate(source: string, file: string, options: ParseOptions = {}): ParseResult {
  const diagnostics: TemplateDiagnostic[] = [];
  const report = limitedReport(diagnostics, file);
  const lines = new Lines(source);
  const children = new TreeBuilder(source, lines, report, options).build();
  return { tree: { file, source, lines, children }, diagnostics };
}

/** A test for the names that the configuration leaves to the browser. */
export function browserElements(patterns: readonly string[]): (name: string) => boolean {
  const tests = patterns.map((pattern) => {
    const escaped = pattern.toLowerCase().replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
    return new RegExp(`^${escaped.replaceAll('\\*', '.*')}$`);
  });
  return (name) => tests.some((test) => test.test(name));
}

/** Elements may be nested so deeply, with clauses and calls fewer; browsers go no deeper than 512 either. */
const deepestNesting = 500;

/** So many clauses may be in a tag; each wraps what those before it made. */
const mostClauses = 50;

class TreeBuilder {
  private readonly source: string;
  private readonly lines: Lines;
  private readonly report: Report;
  private readonly isBrowserElement: (name: string) => boolean;
  private readonly isPlain: boolean;
  private readonly tokenizer: Tokenizer;
  /** Nodes whose parents are still open, in the order of the source. An element takes its children out when it is closed. */
  private readonly nodes: TemplateNode[] = [];
  /** Open elements, the innermost last. */
  private readonly open: Element[] = [];
  /** How many levels they are. */
  private depth = 0;
  /** Whether a tag has taken another for its own: what seems to be open or closed after it need not be. */
  private isLost = false;
  /** Where the children of each of them begin among the nodes. */
  private readonly firstChildren: number[] = [];

  constructor(source: string, lines: Lines, report: Report, { elements = [], isPlain = false }: ParseOptions) {
    this.source = source;
    this.lines = lines;
    this.report = report;
    this.isPlain = isPlain;
    this.isBrowserElement = isPlain ? () => true : browserElements(elements);
    this.tokenizer = new Tokenizer(source, report, isPlain);
  }

  build(): TemplateNode[] {
    try {
      this.readAll();
    } catch (error) {
      if (!(error instanceof TooManyDiagnostics)) throw error;
      while (this.open.length > 0) this.close(this.source.length);
    }
    return this.nodes;
  }

  private readAll(): void {
    for (let token = this.tokenizer.next(); token; token = this.tokenizer.next()) {
      switch (token.kind) {
        case 'start-tag':
          this.startElement(token);
          break;
        case 'end-tag':
          this.endElement(token);
          break;
        default:
          this.nodes.push(token);
      }
    }
    while (this.open.length > 0) this.closeLast(this.source.length);
  }

  private startElement(tag: StartTag): void {
    this.leaveForeignContent(tag);
    for (let { last } = this; last && startEnds(last.name, tag.name) && !this.needsEndTag(last); last = this.last) {
      this.closeLast(tag.start);
    }
    const element: Element = {
      kind: 'element',
      name: tag.name,
      namespace: this.namespaceOf(tag.name),
      items: tag.items,
      children: [],
      startTag: { start: tag.start, end: tag.end },
      endTag: undefined,
      selfClosing: tag.selfClosing,
      start: tag.start,
      end: tag.end,
    };
    this.reportRepeatedClauses(element);
    this.nodes.push(element);
    const isCall = isCallName(element.name) && !this.isBrowserElement(element.name);
    if (isCall && element.items.some(isSwallowed)) {
      this.report({ start: element.start, end: nameSpan(element).end }, readingDiagnostic('missing-tag-end'));
      this.isLost = true;
    }
    if (endsAtOnce(element, isCall)) return;
    this.depth += levelsOf(element);
    if (this.depth > deepestNesting) {
      this.report(element.startTag, readingDiagnostic('nested-too-deeply', { limit: deepestNesting }));
      throw new TooManyDiagnostics();
    }
    this.open.push(element);
    this.firstChildren.push(this.nodes.length);
    const isJSON = element.name === 'script' && isJSONScriptType(fixedValue(attributeOf(element, 'type')) ?? '');
    this.tokenizer.mode =
      element.namespace === 'html' ? modeInside(element.name, isJSON) : { kind: 'data', isForeign: true };
  }

  /** HTML §13.2.6.5, “A start tag whose tag name is one of: b, big, …”: HTML elements end SVG and MathML. */
  private leaveForeignContent(tag: StartTag): void {
    if (!foreignBreakouts.has(tag.name)) return;
    while (this.open.length > 0 && this.namespaceOf(tag.name) !== 'html') this.closeLast(tag.start);
  }

  private namespaceOf(name: string): Namespace {
    if (name === 'svg') return 'svg';
    if (name === 'math') return 'math';
    const parent = this.last;
    if (!parent || parent.namespace === 'html') return 'html';
    if (parent.namespace === 'svg') return svgIntegrationPoints.has(parent.name) ? 'html' : 'svg';
    if (mathIntegrationPoints.has(parent.name)) return 'html';
    const encoding = fixedValue(attributeOf(parent, 'encoding'))?.toLowerCase();
    const holdsHTML = encoding === 'text/html' || encoding === 'application/xhtml+xml';
    return parent.name === 'annotation-xml' && holdsHTML ? 'html' : 'math';
  }

  private endElement(tag: EndTag): void {
    const index = this.open.findLastIndex((element) => element.name === tag.name);
    if (index === -1) {
      this.nodes.push({ kind: 'verbatim', start: tag.start, end: tag.end });
      return;
    }
    while (this.open.length > index + 1) {
      const crossed = this.last!;
      if (this.needsEndTag(crossed) && !this.isLost) {
        const { line } = this.lines.at(crossed.start);
        this.report(tag, readingDiagnostic('invalid-nesting', { name: tag.name, open: crossed.name, line }));
      }
      this.close(tag.start);
    }
    this.last!.endTag = { start: tag.start, end: tag.end };
    this.close(tag.end);
  }

  /** Closes the innermost element where its end tag is missing. */
  private closeLast(end: number): void {
    const element = this.last!;
    if (this.needsEndTag(element) && !this.isLost)
      this.report(element.startTag, readingDiagnostic('missing-end-tag', { name: element.name }));
    this.close(end);
  }

  private close(end: number): void {
    const element = this.open.pop()!;
    this.depth -= levelsOf(element);
    element.end = end;
    element.children = this.nodes.splice(this.firstChildren.pop()!);
    this.tokenizer.mode = { kind: 'data', isForeign: this.isForeign() };
  }

  /** True for elements whose extent decides the output: those with a clause, calls and slots. */
  private needsEndTag(element: Element): boolean {
    if (this.isPlain) return false;
    return clausesOf(element).length > 0 || isCallName(element.name) || element.name === 'slot';
  }

  /** The innermost open element. */
  private get last(): Element | undefined {
    return this.open[this.open.length - 1];
  }

  private isForeign(): boolean {
    return this.last !== undefined && this.last.namespace !== 'html';
  }

  private reportRepeatedClauses(element: Element): void {
    const clauses = clausesOf(element);
    if (clauses.length < 2) return;
    if (clauses.filter(({ kind }) => kind !== 'import').length > mostClauses) {
      this.report(element.startTag, readingDiagnostic('too-many-clauses', { limit: mostClauses }));
      throw new TooManyDiagnostics();
    }
    const seen = new Set<string>();
    for (const clause of clauses) {
      // Several imports bring several types; each (let …) may use those before it.
      if (clause.kind === 'import' || clause.kind === 'let') continue;
      const word = clause.kind === 'else-if' ? 'else' : clause.kind;
      if (seen.has(word)) this.report(clause, readingDiagnostic('duplicate-clause', { name: word }));
      seen.add(word);
    }
  }
}

/** Whether an attribute is the tag that comes next: one that has no end yet takes it for its own (HTML §13.2.5.32). */
function isSwallowed(item: TagItem): boolean {
  return item.kind === 'attribute' && item.name.startsWith('<');
}

/** Whether a start tag is all that there is of an element (HTML §13.1.2). */
function endsAtOnce({ name, namespace, selfClosing }: Element, isCall: boolean): boolean {
  if (namespace !== 'html' || isCall) return selfClosing;
  return voidElements.has(name) || (selfClosing && emptyShapes.has(name));
}

/** How many levels an element takes: whoever compiles and runs it calls itself more often for what is ours. */
function levelsOf(element: Element): number {
  let levels = isCallName(element.name) ? 4 : 1;
  for (const clause of clausesOf(element))
    levels += clause.kind === 'let' || clause.kind === 'await' ? 2 * clause.bindings.length : 2;
  return levels;
}
