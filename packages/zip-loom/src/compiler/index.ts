/** Trees → one resolved set → JavaScript. */
export { Compilation } from './compilation.ts';
export { type BuiltFile, type BuiltModule, BuiltModules, buildFiles } from './emit/modules.ts';
export { typeDeclarations } from './emit/type-declarations.ts';
export { Linker } from './link.ts';
export { argumentName, attributeName } from './lower/arguments.ts';
export { ownerOf } from './lower/attribute-owner.ts';
export { type Branch, groupSiblings } from './lower/siblings.ts';
export { builtIns, isBuiltInName } from './names/known-names.ts';
export { calledBy } from './set/called-by.ts';
export { isSlotElement, slotName } from './set/slots.ts';
export { declarationOf, filePath, isBuiltIn, partialName, type Template, takesOf } from './set/template.ts';
export type { TemplateSet } from './set/template-set.ts';
