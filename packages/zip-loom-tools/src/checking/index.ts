/** Everything that is wrong with a project: templates, their HTML, and types by its own TypeScript. */
export type { FixedPlace } from './fixes.ts';
export { ProjectCheck, withTypes } from './project-check.ts';
export { projectCompiler } from './project-compiler.ts';
export { isScript, scriptsBelow } from './scripts.ts';
export type { TemplatePlace, TypeQuestions } from './type-questions.ts';
export { type CodeRange, codePosition, type TypedName } from './type-service/index.ts';
