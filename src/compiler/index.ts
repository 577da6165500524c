/** Trees → one resolved set → JavaScript. */
export { Compilation } from './compilation.ts';
export { type BuiltFile, buildFiles } from './emit/modules.ts';
export { typeDeclarations } from './emit/type-declarations.ts';
export { Linker } from './link.ts';
export { partialName, type Template } from './set/template.ts';
