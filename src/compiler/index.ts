/** Trees → one resolved set → JavaScript. */
export { Compilation, type CompileOptions, type TemplateSource } from './compilation.ts';
export { complaints } from './complaints.ts';
export { Linker, type TemplatePlace } from './link.ts';
export type { Template, TemplateSet } from './template-set.ts';
