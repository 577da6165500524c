/**
 * Template text → tokens. The tokenizer of the HTML standard (§13.2.5) with two additions: `${expression}` and, in tags,
 * clauses. Where the standard has a state for each character, this reads each construct in one step; the methods bear the
 * names of the states they stand for. Tokens keep their spans, so that untouched markup can be printed from the source.
 */

import type { Report, Span } from '../diagnostics/index.ts';
import { readAttribute, readSpread } from './attributes.ts';
import { character, isLetter, lowerCase } from './characters.ts';
import { readClause } from './clauses.ts';
import { readingDiagnostic } from './diagnostics.ts';
import { isCallName } from './elements.ts';
import { scriptDataEnd } from './script-data.ts';
import { isSubstitutionStart, nextOf, readSubstitution, readText, skipSubstitution } from './substitutions.ts';
import { appropriateEndTag, endOfTagName, slotTagAt } from './tag-ends.ts';
import { dataMode, type RawMode, type TokenizerMode } from './tokenizer-mode.ts';
import type { Comment, Substitution, TagItem, Text, Verbatim } from './tree.ts';
import { skipSpace } from './whitespace.ts';

export type Token = Text | Substitution | Comment | Verbatim | StartTag | EndTag;

export interface StartTag extends Span {
  kind: 'start-tag';
  name: string;
  items: TagItem[];
  selfClosing: boolean;
}

export interface EndTag extends Span {
  kind: 'end-tag';
  name: string;
}

export class Tokenizer {
  readonly source: string;
  /** How the text at hand is read. The parser sets it after each tag, as tree construction does (§13.2.6). */
  mode: TokenizerMode = dataMode;
  private position = 0;
  private readonly report: Report;
  private readonly isPlain: boolean;

  /** @param isPlain true to read HTML alone, without substitutions and clauses */
  constructor(source: string, report: Report, isPlain = false) {
    this.source = source;
    this.report = report;
    this.isPlain = isPlain;
  }

  /** The next token, or `undefined` at the end. */
  next(): Token | undefined {
    if (this.position >= this.source.length) return undefined;
    const { mode } = this;
    switch (mode.kind) {
      case 'data':
        return this.data();
      case 'plaintext':
        return this.textUpTo(this.source.length, false);
      case 'raw':
        return this.rawContent(mode);
    }
  }

  /** §13.2.5.1 Data state. */
  private data(): Token {
    const { source } = this;
    const start = this.position;
    let at = start;
    while (at < source.length) {
      at = nextOf(source, '<', at);
      if (source.charCodeAt(at) === character.less) {
        const markup = this.markupAt(at, start);
        if (markup) return markup;
      } else if (!this.isPlain && isSubstitutionStart(source, at)) {
        return at > start ? this.textUpTo(at, true) : this.substitution();
      }
      at++;
    }
    return this.textUpTo(source.length, true);
  }

  /** §13.2.5.6 Tag open state. Text before the markup comes first; `undefined` where `<` is only text. */
  private markupAt(at: number, textStart: number): Token | undefined {
    const after = this.source.charCodeAt(at + 1);
    const isMarkup =
      isLetter(after) ||
      after === character.exclamation ||
      after === character.question ||
      (after === character.slash && at + 2 < this.source.length);
    if (!isMarkup) {
      const name = after === character.slash ? at + 2 : at + 1;
      if (!this.isPlain && this.source.startsWith('${', name))
        this.report({ start: at, end: name + 2 }, readingDiagnostic('refused-tag-name'));
      return undefined;
    }
    if (at > textStart) return this.textUpTo(at, true);
    if (after === character.exclamation) return this.markupDeclaration();
    if (after === character.question) return this.bogusComment();
    if (after !== character.slash) return this.startTag();
    if (isLetter(this.source.charCodeAt(at + 2))) return this.endTag();
    if (!this.isPlain && this.source.startsWith('${', at + 2)) {
      this.report({ start: at, end: at + 4 }, readingDiagnostic('refused-tag-name'));
    }
    return this.bogusComment();
  }

  /** §13.2.5.8 Tag name state and what follows it, for a start tag. */
  private startTag(): Token {
    const start = this.position;
    this.position++;
    const name = this.tagName();
    const items: TagItem[] = [];
    const { source } = this;
    const place = this.isPlain ? 'plain' : isCallName(name) ? 'call' : 'tag';
    for (;;) {
      // §13.2.5.32 Before attribute name state
      const at = skipSpace(source, this.position);
      this.position = at;
      if (at >= source.length) return this.unfinishedTag(start, items);
      const code = source.charCodeAt(at);
      if (code === character.greater) {
        this.position++;
        return { kind: 'start-tag', name, items: items.slice(), selfClosing: false, start, end: this.position };
      }
      if (code === character.slash) {
        // §13.2.5.40 Self-closing start tag state
        this.position++;
        if (source.charCodeAt(this.position) === character.greater) {
          this.position++;
          return { kind: 'start-tag', name, items: items.slice(), selfClosing: true, start, end: this.position };
        }
      } else if (place !== 'plain' && code === character.open) {
        const { clause, end } = readClause(source, at, this.report);
        this.position = end;
        if (clause) items.push(clause);
      } else if (place !== 'plain' && code === character.dollar && source.startsWith('${...', at)) {
        items.push(this.take(readSpread(source, at, this.report)));
      } else {
        items.push(this.take(readAttribute(source, at, place, this.report)));
      }
    }
  }

  private endTag(): Token {
    const start = this.position;
    this.position += 2;
    const name = this.tagName();
    // An end tag may have attributes, which mean nothing; quotes in them still hide a “>”.
    for (;;) {
      this.position = skipSpace(this.source, this.position);
      if (this.position >= this.source.length) return { kind: 'verbatim', start, end: this.position };
      const code = this.source.charCodeAt(this.position);
      if (code === character.greater) {
        this.position++;
        return { kind: 'end-tag', name, start, end: this.position };
      }
      if (code === character.slash) this.position++;
      else this.take(readAttribute(this.source, this.position, this.isPlain ? 'plain' : 'tag', this.report));
    }
  }

  private tagName(): string {
    const start = this.position;
    this.position = endOfTagName(this.source, start);
    const name = lowerCase(this.source.slice(start, this.position));
    const substitution = this.isPlain ? -1 : name.indexOf('${');
    if (substitution !== -1) {
      const diagnostic = readingDiagnostic('refused-tag-name');
      const behind = skipSubstitution(this.source, start + substitution, diagnostic, this.report);
      this.position = endOfTagName(this.source, behind);
    }
    return name;
  }

  /** §13.2.5.42 Markup declaration open state. */
  private markupDeclaration(): Token {
    const { source } = this;
    const start = this.position;
    if (source.startsWith('<!--', start)) return this.comment();
    if (this.mode.kind === 'data' && this.mode.isForeign && source.startsWith('<![CDATA[', start)) {
      const end = source.indexOf(']]>', start + 9);
      return this.verbatimUpTo(end === -1 ? source.length : end + 3);
    }
    return this.bogusComment();
  }

  /** §13.2.5.43 Comment start state to §13.2.5.52 Comment end bang state. */
  private comment(): Token {
    const { source } = this;
    const start = this.position;
    const inside = start + 4;
    if (source[inside] === '>' || source.startsWith('->', inside)) {
      this.position = source.indexOf('>', inside) + 1;
      return { kind: 'comment', note: false, start, end: this.position };
    }
    const commentEnd = /--!?>/g;
    commentEnd.lastIndex = inside;
    const found = commentEnd.exec(source);
    this.position = found ? commentEnd.lastIndex : source.length;
    const text = source.slice(inside, found ? found.index : source.length);
    const note = !this.isPlain && found !== null && /^\(\s(?:[\s\S]*\s)?\)$/.test(text);
    return { kind: 'comment', note, start, end: this.position };
  }

  /** §13.2.5.41 Bogus comment state; doctypes end at the first “>” too (§13.2.5.53 to .68). */
  private bogusComment(): Verbatim {
    const end = this.source.indexOf('>', this.position);
    return this.verbatimUpTo(end === -1 ? this.source.length : end + 1);
  }

  /** §13.2.5.2 RCDATA, §13.2.5.3 RAWTEXT and §13.2.5.4 Script data states, up to the appropriate end tag. */
  private rawContent(mode: RawMode): Token {
    const { source } = this;
    const start = this.position;
    // Looked for once, however many substitutions come before it.
    mode.end ??=
      mode.element === 'script' ? scriptDataEnd(source, start) : appropriateEndTag(source, mode.element, start);
    const contentEnd = mode.end;
    if (contentEnd <= start) {
      this.mode = dataMode;
      return this.endTag();
    }
    if (this.isPlain || !mode.holdsValues) return this.textUpTo(contentEnd, false);
    for (let at = nextOf(source, '<', start); at < contentEnd; at = nextOf(source, '<', at + 1)) {
      if (isSubstitutionStart(source, at)) return at > start ? this.textUpTo(at, true) : this.substitution();
      const slot = mode.element === 'title' ? slotTagAt(source, at) : undefined;
      if (slot === undefined) continue;
      if (at > start) return this.textUpTo(at, true);
      return slot === 'start' ? this.startTag() : this.endTag();
    }
    return this.textUpTo(contentEnd, true);
  }

  private substitution(): Substitution {
    return this.take(readSubstitution(this.source, this.position, this.report));
  }

  /** Takes what another reader has read, and goes on after it. */
  private take<T extends Span>(read: T): T {
    this.position = read.end;
    return read;
  }

  /** A tag that the end of the source cuts off: the standard drops it (§13.2.5 eof-in-tag), a template prints it as it is. */
  private unfinishedTag(start: number, items: TagItem[]): Verbatim {
    const ours = items.some(
      (item) => item.kind !== 'attribute' || item.value?.some((part) => part.kind === 'substitution'),
    );
    if (ours) this.report({ start, end: this.source.length }, readingDiagnostic('missing-tag-end'));
    this.position = start;
    return this.verbatimUpTo(this.source.length);
  }

  private textUpTo(end: number, holdsSubstitutions: boolean): Text {
    const start = this.position;
    this.position = end;
    return holdsSubstitutions && !this.isPlain
      ? readText(this.source, start, end)
      : { kind: 'text', text: this.source.slice(start, end), start, end };
  }

  private verbatimUpTo(end: number): Verbatim {
    const start = this.position;
    this.position = end;
    return { kind: 'verbatim', start, end };
  }
}
