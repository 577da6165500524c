/** What the tools know. Pure: sources and errors in, findings out. */

export type { Edit } from './edit.ts';
export { type Completion, completionsAt } from './editor/completions.ts';
export { placesOf, renaming } from './editor/naming.ts';
export { offersOf } from './editor/offers.ts';
export { declarationPlace, describeSymbol, type EditorSymbol, type FilePlace, symbolAt } from './editor/symbols.ts';
export { counted, findingOf, summary } from './findings.ts';
export { type Fix, fixesOf, withFixes } from './fixes.ts';
export { type MarkupSettings, markupFindings } from './markup/markup-findings.ts';
export { sarif } from './sarif.ts';
export { type CompilerMessage, compilerMessages } from './types/compiler-output.ts';
export { nameQuestions, namesFound } from './types/name-questions.ts';
export { typeFindings } from './types/type-findings.ts';
export { type TypedModule, type TypedModulesSettings, typedModules } from './types/typed-modules.ts';
