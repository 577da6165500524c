/** Messages of a TypeScript compiler → what is wrong with templates, at their places and in their words. */
import {
  type Diagnostic,
  nearest,
  placed,
  proposedFor,
  type Span,
  type TemplateDiagnostic,
} from 'zip-loom/internal/diagnostics';
import { type CompilerMessage, offsetIn } from './compiler-output.ts';
import { typeDiagnostic } from './diagnostics.ts';
import { type Piece, pieceAt, type Subject } from './mapped-text.ts';
import type { TypedModule } from './typed-modules.ts';

/**
 * @param messages what the compiler said of modules
 * @param moduleOf the module of a file as the compiler names it; `undefined` for files of the project’s own
 * @param namesAt names that a type has, where a property is missing: by the template’s file and the offset in it
 * @returns one for each message about a template, each once
 */
export function typeFindings(
  messages: readonly CompilerMessage[],
  moduleOf: (file: string) => TypedModule | undefined,
  namesAt: NamesAt,
): TemplateDiagnostic[] {
  const found = new Map<string, TemplateDiagnostic>();
  for (const message of messages) {
    const module = message.file === undefined ? undefined : moduleOf(message.file);
    const finding = module?.template && findingOf(message, module, namesAt);
    if (!finding) continue;
    const key = `${finding.file}\n${finding.span.start}\n${finding.message}`;
    if (!found.has(key)) found.set(key, finding);
  }
  return [...found.values()];
}

type NamesAt = (file: string, offset: number) => readonly string[];

function findingOf(
  message: CompilerMessage,
  { text, pieces, template, origin }: TypedModule,
  namesAt: NamesAt,
): TemplateDiagnostic | undefined {
  const offset = offsetIn(text, message);
  const piece = pieceAt(pieces, offset);
  // What is beside all pieces is ours, and says nothing to anybody.
  if (!piece) return undefined;
  // Names are looked after by the compiler of templates, and types alone are TypeScript’s.
  if (unknownNames.has(message.code) && piece.subject.kind !== 'type') return undefined;
  const { file, source } = origin ?? template!.tree;
  const span = spanOf(piece, offset, source);
  const diagnostic = diagnosticOf(message, piece, offset === piece.start, namesAt(file, span.start));
  if (!diagnostic) return undefined;
  // The message may be about more than the name that it begins at.
  const { code = '' } = diagnostic.facts as { code?: string };
  const isLonger = code !== '' && source.startsWith(code, span.start);
  return placed(diagnostic, file, isLonger ? { start: span.start, end: span.start + code.length } : span);
}

/** “Cannot find name”, with a proposal and without one; also in what is written short for a field. */
const unknownNames = new Set([2304, 2552, 18004]);

/** In text that is the template’s own, the name that the message begins at. */
function spanOf({ start, place, isSame, subject }: Piece, offset: number, source: string): Span {
  if (!isSame) return place;
  const from = place.start + offset - start;
  const pattern = subject.kind === 'sample' ? /^(?:"(?:[^"\\\n]|\\.)*"|[\p{ID_Continue}$]+)/u : /^[\p{ID_Continue}$]+/u;
  const [name = ''] = pattern.exec(source.slice(from, place.end)) ?? [];
  return { start: from, end: name === '' ? place.end : from + name.length };
}

/**
 * @param isWhole whether the message is about all of the piece
 * @param known names that could be meant
 */
function diagnosticOf(
  message: CompilerMessage,
  { subject }: Piece,
  isWhole: boolean,
  known: readonly string[],
): Diagnostic | undefined {
  const [first = ''] = message.text.split('\n');
  const [given, wanted] = mismatchOf(first);
  if (subject.kind === 'sample') return typeDiagnostic('mistyped-sample', { text: deepest(message.text) });
  if (subject.kind === 'arguments') return ofArguments(message.text, subject);
  const isOfValue = subject.kind === 'printed' || subject.kind === 'items';
  if (given !== undefined && wanted !== undefined && (isWhole || !isOfValue))
    return mismatch(
      subject,
      {
        given: shown(given),
        wanted: (subject.kind === 'field' ? String : shown)(wanted.replace(/ \| undefined$/, '')),
      },
      first,
    );
  const [, lost, type] = /^Property '(.+?)' does not exist on type '(.+?)'\./.exec(first) ?? [];
  const [, proposed] = /Did you mean '(.+?)'\?$/.exec(first) ?? [];
  // Helpers may be registered in code, where nobody sees them; their names are looked after by the compiler.
  if (type === 'AllHelpers') return undefined;
  if (lost !== undefined && type !== undefined) {
    if (subject.kind === 'given') return typeDiagnostic('unknown-given', { name: lost, slot: subject.slot });
    const near = proposedFor(lost, proposed) ?? nearest(lost, known);
    return typeDiagnostic('missing-property', { name: lost, type: shown(type), nearest: near, known });
  }
  const [, missing] = /^Cannot find name '(.+?)'\./.exec(first) ?? [];
  if (missing !== undefined && subject.kind === 'type')
    return typeDiagnostic('unknown-type', { name: missing, nearest: proposedFor(missing, proposed) });
  const [, code = '', what] = /^(?:'(.+)'|Object) is possibly (.+)\.$/.exec(first) ?? [];
  if (what !== undefined) return typeDiagnostic('possibly-missing', { code, what: what.replaceAll("'", '') });
  if (subject.kind === 'import') return typeDiagnostic('unknown-import', { text: first });
  return typeDiagnostic('mistyped-value', { text: first });
}

/** Arguments that come in a record: which of them it is stands further down in the message. */
function ofArguments(text: string, { call, declaration }: Extract<Subject, { kind: 'arguments' }>): Diagnostic {
  const [, name, given, wanted] =
    /Types of property '(.+?)' are incompatible\.\s+Type '(.+)' is not assignable to type '(.+?)'\./.exec(text) ?? [];
  if (name === undefined || given === undefined || wanted === undefined)
    return typeDiagnostic('mistyped-value', { text: text.split('\n')[0]! });
  return typeDiagnostic('mistyped-argument', { name, call, declaration, given: shown(given), wanted: shown(wanted) });
}

/** The type that a value has, and the one that it should have. */
function mismatchOf(text: string): [given: string | undefined, wanted: string | undefined] {
  const [, given, wanted] =
    /^Type '(.+)' is not assignable to type '(.+?)'\./.exec(text) ??
    /^Type '(.+)' does not satisfy the expected type '(.+?)'\./.exec(text) ??
    /^Argument of type '(.+)' is not assignable to parameter of type '(.+?)'\./.exec(text) ??
    /^Type '(.+)' has no properties in common with type '(.+?)'\./.exec(text) ??
    /^Property '.+' is missing in type '(.+)' but required in type '(.+?)'\./.exec(text) ??
    /^Type '(.+)' is missing the following properties from type '(.+?)':/.exec(text) ??
    [];
  return [given, wanted];
}

function mismatch(subject: Subject, types: { given: string; wanted: string }, text: string): Diagnostic | undefined {
  const { given, wanted } = types;
  switch (subject.kind) {
    case 'argument':
      return typeDiagnostic('mistyped-argument', { ...subject, ...types });
    case 'given':
      return typeDiagnostic('mistyped-given', { ...subject, ...types });
    case 'printed':
      // Of what is unknown nobody knows that it cannot be printed.
      return given === 'unknown' ? undefined : typeDiagnostic('unprintable-value', { given });
    case 'items':
      return typeDiagnostic('unrepeatable-value', { given });
    case 'field': {
      const name = given.replace(/^"(.*)"$/, '$1');
      const known = [...wanted.matchAll(/["`]([^"`]+)["`]/g)].map(([, one]) => one!.replaceAll('${number}', '0'));
      return typeDiagnostic('unknown-control', { name, form: subject.form, nearest: nearest(name, known) });
    }
    default:
      return typeDiagnostic('mistyped-value', { text });
  }
}

/** The last reason is about the value that does not fit. */
function deepest(text: string): string {
  const last = text.split('\n').at(-1)!.trim();
  return shown(last.replace(/^Object literal may only specify known properties, (?:and|but) '"?(.*?)"?'/, "'$1'"));
}

/** A type that is long is cut. */
function shown(type: string): string {
  return type.length > 200 ? `${type.slice(0, 197)} …` : type;
}
