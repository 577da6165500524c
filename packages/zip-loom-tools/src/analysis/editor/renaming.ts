/** Another name for a partial, a parameter or a slot, wherever it is named. */
import {
  attributeName,
  type Compilation,
  declarationOf,
  isBuiltIn,
  type TemplateSet,
} from 'zip-loom/internal/compiler';
import { type Diagnostic, LoomError } from 'zip-loom/internal/diagnostics';
import { clauseOf, freeNames } from 'zip-loom/internal/language';
import type { Edit } from '../edit.ts';
import { templateExpressions } from '../template-expressions.ts';
import { editorDiagnostic } from './diagnostics.ts';
import { type NamingPlace, placesOf } from './naming.ts';
import { namesAround } from './places.ts';
import type { EditorSymbol, FilePlace } from './symbols.ts';

/** A change of a name: texts in files, and a file that gets another name. */
export interface Renaming {
  edits: ReadonlyArray<FilePlace & Edit>;
  file?: { from: string; to: string };
}

type Renamed = Extract<EditorSymbol, { kind: 'template' | 'parameter' | 'slot' }>;

/** What a new name has to be. */
export const fitting = {
  template: /^[a-z][a-z0-9._]*-[a-z0-9._-]+$/,
  /** Whoever is called by a clause alone needs no hyphen. */
  layout: /^[a-z][a-z0-9._-]*$/,
  parameter: /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u,
  slot: /^[a-z][\w-]*$/i,
} as const;

export function mayBeRenamed(symbol: EditorSymbol): symbol is Renamed {
  if (symbol.kind === 'name' || symbol.kind === 'helper' || symbol.kind === 'clause') return false;
  return !isBuiltIn(symbol.template) && !(symbol.template.kind === 'page' && symbol.kind === 'template');
}

/**
 * @param code the project’s own scripts, by their paths: they name templates too
 * @throws {LoomError} where a name cannot be that of what is renamed, or is taken
 */
export function renaming(
  compilation: Compilation,
  symbol: EditorSymbol,
  name: string,
  code: ReadonlyMap<string, string>,
): Renaming {
  if (!mayBeRenamed(symbol)) throw refused(editorDiagnostic('refused-renaming', { name: nameOf(symbol) }));
  const { template } = symbol;
  const kind = symbol.kind === 'template' && !template.name.includes('-') ? 'layout' : symbol.kind;
  if (!fitting[kind].test(name)) throw refused(editorDiagnostic('invalid-new-name', { name, kind }));
  const places = placesOf(compilation, symbol, code);
  const by = name === nameOf(symbol) ? undefined : ownerOf(compilation, symbol, name, places);
  if (by !== undefined) throw refused(editorDiagnostic('duplicate-name', { name, by }));
  const edits = places.map(({ file, start, end, as }) => ({ file, start, end, text: writtenAs(as, name, symbol) }));
  const { tree, definition } = template;
  const isFile = symbol.kind === 'template' && !(definition && clauseOf(definition, 'named'));
  return isFile ? { edits, file: { from: tree.file, to: tree.file.replace(/[^/]*$/, `${name}.html`) } } : { edits };
}

/** @throws {LoomError} where a name cannot be that of a new partial or layout, or is taken */
export function assertNewName({ set }: Compilation, name: string): void {
  if (!fitting.template.test(name)) throw refused(editorDiagnostic('invalid-new-name', { name, kind: 'template' }));
  const by = fileNamed(set, name);
  if (by !== undefined) throw refused(editorDiagnostic('duplicate-name', { name, by }));
}

/** The file of the template that has a name. */
function fileNamed({ templates }: TemplateSet, name: string): string | undefined {
  return templates.find((one) => one.name === name)?.tree.file;
}

function refused(diagnostic: Diagnostic): LoomError {
  return new LoomError(diagnostic);
}

function nameOf(symbol: EditorSymbol): string {
  if (symbol.kind === 'clause') return symbol.word;
  return symbol.kind === 'template' ? symbol.template.name : symbol.name;
}

function writtenAs(as: NamingPlace['as'], name: string, symbol: Renamed): string {
  // At a call it is an attribute, which has no capital letters.
  if (as === 'argument') return attributeName(name);
  return as === 'field' ? `${nameOf(symbol)}: ${name}` : name;
}

/** Who has the name already. */
function ownerOf(
  { set }: Compilation,
  symbol: Renamed,
  name: string,
  places: readonly NamingPlace[],
): string | undefined {
  const { template } = symbol;
  if (symbol.kind === 'template') return fileNamed(set, name);
  if (symbol.kind === 'slot') return template.contents.slots.includes(name) ? declarationOf(template) : undefined;
  const { tree } = template;
  if (template.parameters.some((one) => one.name === name)) return declarationOf(template);
  const own = places.filter(({ file, as }) => file === tree.file && as !== 'argument');
  const bound = own.flatMap(({ start }) => namesAround(template, tree, start)).find((one) => one.name === name);
  if (bound) return `${bound.by} in ${tree.file}`;
  const used = templateExpressions(template).some(({ syntax }) => freeNames(syntax).some((one) => one.name === name));
  return used ? `what ${tree.file} reads by that name` : undefined;
}
