/**
 * Catalogues: how the diagnostics of a room are worded, each with message, hint and an example side by side, so that all can be
 * read in one list and sound like one voice. The list in the docs is made from the examples.
 */
import type { DiagnosticCode } from './codes.ts';
import type { Diagnostic, Severity } from './diagnostic.ts';

/** How one diagnostic is worded. */
export interface Wording<Facts extends object> {
  /** Default: `error`. */
  severity?: Severity;
  /** What is wrong. */
  message(facts: Facts): string;
  /** What to do. */
  hint(facts: Facts): string;
  /** Facts for the docs; several where the wording differs. */
  examples: readonly [Facts, ...Facts[]];
}

/** Wordings by code. */
export type Wordings = { readonly [Code in DiagnosticCode]?: Wording<object> };

type FactsOf<Worded> = Worded extends Wording<infer Facts> ? Facts : never;
type FactsArguments<Facts> = Record<never, never> extends Facts ? [facts?: Facts] : [facts: Facts];
type CodeOf<All extends Wordings> = keyof All & DiagnosticCode;

/** Makes the diagnostics of one room: `diagnostic('unknown-name', { name, nearest })`. */
export interface Catalogue<All extends Wordings> {
  <Code extends CodeOf<All>>(
    code: Code,
    ...facts: FactsArguments<FactsOf<All[Code]>>
  ): Diagnostic<Code, FactsOf<All[Code]> & object>;
  /** For the list of messages. */
  readonly wordings: All;
}

/** The wording of one diagnostic that has facts. */
export function worded<Facts extends object>(wording: Wording<Facts>): Wording<Facts> {
  return wording;
}

/** The wording of one diagnostic that says the same each time. */
export function sentence(message: string, hint: string, severity: Severity = 'error'): Wording<Record<never, never>> {
  return { severity, message: () => message, hint: () => hint, examples: [{}] };
}

/** A catalogue from its wordings. */
export function catalogue<All extends Wordings>(wordings: All): Catalogue<All> {
  const make = (code: CodeOf<All>, facts: object = {}): Diagnostic => {
    const { severity = 'error', message, hint }: Wording<object> = wordings[code]!;
    return { code, severity, facts, message: message(facts), hint: hint(facts) };
  };
  return Object.assign(make, { wordings }) as unknown as Catalogue<All>;
}
