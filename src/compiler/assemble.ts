/** Puts imports around a generated template: as an ES module, or as the body of a function for use at once. */
import type { GeneratedTemplate } from './generate.ts';
import { literal } from './parts.ts';
import type { Template } from './template-set.ts';

/** JavaScript text, and how far its generated part stands from the start. */
export interface Assembled {
  code: string;
  /** Where the code of the generator begins, in UTF-16 code units. */
  offset: number;
}

/**
 * An ES module that exports `render`.
 * @param specifierOf where the module of another template is imported from
 */
export function assembleModule(generated: GeneratedTemplate, specifierOf: (template: Template) => string): Assembled {
  const imports = [...generated.templateNames].map(
    ([template, name]) => `import { render as ${name} } from ${literal(specifierOf(template))};\n`,
  );
  const names = pairs(generated.runtimeNames, ' as ');
  const runtime = names ? `import { ${names} } from "zip-loom/runtime";\n` : '';
  const before = `${runtime}${imports.join('')}\n`;
  const alias = generated.renderName === 'render' ? 'render' : `${generated.renderName} as render`;
  return { code: `${before}${generated.code}\nexport { ${alias} };\n`, offset: before.length };
}

/** The body of a function of `runtime` (the run-time’s functions) and `link` (from a template’s id to its function). */
export function assembleFunctionBody(generated: GeneratedTemplate): Assembled {
  const links = [...generated.templateNames].map(
    ([template, name]) => `const ${name} = link(${literal(template.id)});\n`,
  );
  const names = pairs(generated.runtimeNames, ': ');
  const before = `${names ? `const { ${names} } = runtime;\n` : ''}${links.join('')}\n`;
  return { code: `${before}${generated.code}\nreturn ${generated.renderName};\n`, offset: before.length };
}

function pairs(names: ReadonlyMap<string, string>, between: string): string {
  return [...names].map(([name, local]) => (name === local ? name : name + between + local)).join(', ');
}
