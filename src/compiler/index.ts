/** Trees → one resolved set → JavaScript. */
export { Compilation, type CompileOptions, type TemplateSource } from './compilation.ts';
export { type BuildOptions, type BuiltFile, buildFiles } from './emit/modules.ts';
export { typeDeclarations } from './emit/type-declarations.ts';
export { Linker, type TemplatePlace } from './link.ts';
export type { Template } from './set/template.ts';
export type { TemplateSet } from './set/template-set.ts';
