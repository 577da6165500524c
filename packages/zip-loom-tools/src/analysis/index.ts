/** What the tools know. Pure: sources and errors in, findings out. */

export {
  type AdoptedLayout,
  type Adoption,
  type AdoptionSettings,
  adoptPages,
} from './adopting/adoption.ts';
export { nextCard } from './adopting/cards.ts';
export { type DocumentDifference, documentDifference } from './adopting/difference.ts';
export type { Accepted } from './adopting/layouts.ts';
export { relinked } from './adopting/links.ts';
export type { AdoptedNames } from './adopting/names.ts';
export type { NearMiss } from './adopting/near-misses.ts';
export { type Edit, edited } from './edit.ts';
export { namedByCode, namesInCode } from './editor/code-names.ts';
export { type Completion, completionsAt } from './editor/completions.ts';
export { cursorAt, finishedTexts, isTyped } from './editor/cursor.ts';
export { extraction } from './editor/extraction.ts';
export { layoutExtraction } from './editor/layout-extraction.ts';
export { placesOf } from './editor/naming.ts';
export { offersOf } from './editor/offers.ts';
export { templateAt } from './editor/places.ts';
export { assertNewName, mayBeRenamed, type Renaming, renaming } from './editor/renaming.ts';
export { semanticTokens, tokenTypes } from './editor/semantic-tokens.ts';
export { declarationPlace, describeSymbol, type EditorSymbol, type FilePlace, symbolAt } from './editor/symbols.ts';
export { findingOf, summary } from './findings.ts';
export { type Fix, fixesOf, withFixes } from './fixes.ts';
export { formatted } from './formatting/format.ts';
export { isSameButForSpace } from './formatting/same-but-for-space.ts';
export { type MarkupSettings, markupFindings } from './markup/markup-findings.ts';
export type { Difference } from './repeats/differences.ts';
export { extractionPlan } from './repeats/extract.ts';
export { findRepeats, type Repeat, type RepeatPlace } from './repeats/repeats.ts';
export { sampleText } from './samples/sample-data.ts';
export { samplable, sampleQuestion, sampleTypes } from './samples/sample-questions.ts';
export type { DataType } from './samples/type-text.ts';
export { sarif } from './sarif.ts';
export { partsAround, readTrace, type Trace } from './tracing/read-trace.ts';
export { type TraceEntry, traceTree } from './tracing/trace-tree.ts';
export { type CompilerMessage, compilerMessages } from './types/compiler-output.ts';
export { offsetOf, placeOf } from './types/mapped-text.ts';
export { nameQuestions, namesFound } from './types/name-questions.ts';
export { type SampleSource, sampleModules } from './types/sample-modules.ts';
export { typeFindings } from './types/type-findings.ts';
export {
  modulePath,
  type TypedModule,
  type TypedModulesSettings,
  typedModule,
  typedModules,
} from './types/typed-modules.ts';
