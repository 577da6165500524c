/**
 * The resolved tree: what a template does when it runs, with all names settled. The pass before knows HTML, the pass after
 * knows JavaScript; these types are all that they share.
 */

import type { Span } from '../diagnostics/index.ts';
import type { Binding, Expression, Namespace } from '../language/index.ts';
import type { Code, Name } from './code.ts';
import type { Template } from './set/template.ts';

export type Part =
  | { kind: 'static'; text: string }
  /** Code whose result, already escaped, is printed. */
  | { kind: 'value'; code: Code }
  /** The first branch whose condition holds; a branch without a condition is the last. */
  | { kind: 'if'; branches: Array<{ condition: Code | undefined; parts: Part[] }> }
  | {
      kind: 'for';
      item: Binding;
      index: Binding | undefined;
      items: Code;
      parts: Part[];
      otherwise: Part[] | undefined;
    }
  /** Content for values that may be promises. */
  | {
      kind: 'await';
      values: Expression[];
      /** What binds the values, as parameters of a function. */
      bindings: Binding[];
      parts: Part[];
      /** What is there until then, when the page need not wait. */
      meanwhile: Part[] | undefined;
      failed: { error: Binding | undefined; parts: Part[] } | undefined;
      /** The clause. */
      place: Span;
      namespace: Namespace;
    }
  | { kind: 'let'; bindings: Array<{ binding: Binding; value: Expression }>; parts: Part[] }
  /** `place` is the tag that calls. */
  | {
      kind: 'call';
      template: Template;
      recursive: boolean;
      values: Code;
      fills: FillPart[];
      place: Span;
    }
  /** Parts without a region, which need not run when another region is wanted. */
  | { kind: 'skippable'; parts: Part[] }
  /** Text that is printed only when the parts after it print something. */
  | { kind: 'lead'; text: string; parts: Part[] }
  /** A place that fills go to. `before` is printed only with a fill; `own` is where nothing fills it. */
  | { kind: 'slot'; name: string; values: Code | undefined; before: string; own: Part[] }
  /** A call that writes by itself. */
  | { kind: 'run'; code: Code }
  /** A part that can change by itself. */
  | { kind: 'region'; enter: Code; parts: Part[]; place: Span }
  /**
   * A name for a value that the parts use; `place` is where an error in it is reported. Working it out prints nothing, so it
   * may happen before the text around it is printed. A name that is text is one that the author knows.
   */
  | { kind: 'const'; name: Name | string; value: Code; parts: Part[]; place: Span }
  /** `<slot (inherited)>`: what the fill at hand replaces. */
  | { kind: 'inherited' };

/** What fills one slot: all pieces whose condition holds, in order. Where none holds, the slot is not filled. */
export interface FillPart {
  slot: string;
  /** Names that the slot gives, as a destructuring pattern. */
  takes: Code | undefined;
  /** Whether it shows what it replaces. */
  showsInherited: boolean;
  pieces: Array<{ condition: Code | undefined; parts: Part[] }>;
}

/** Text that is printed as it is. */
export function fixed(text: string): Part {
  return { kind: 'static', text };
}

/** Code whose result is printed. */
export function print(code: Code): Part[] {
  return [{ kind: 'value', code }];
}

/** Adds text to parts. Text after text is one. */
export function addText(parts: Part[], text: string): void {
  if (text === '') return;
  const last = parts[parts.length - 1];
  if (last?.kind === 'static') last.text += text;
  else parts.push({ kind: 'static', text });
}

/** Adds parts to others, which may come to change them. */
export function addParts(parts: Part[], more: readonly Part[]): void {
  for (const part of more) {
    if (part.kind === 'static') addText(parts, part.text);
    else parts.push(part);
  }
}
