/** Trees → one resolved set → JavaScript. */
export { Compilation, type CompileOptions, type TemplateSource } from './compilation.ts';
export { Linker, type TemplatePlace } from './link.ts';
export { type BuildOptions, type BuiltFile, buildFiles } from './modules.ts';
export type { Template, TemplateSet } from './template-set.ts';
export { typeDeclarations } from './type-declarations.ts';
