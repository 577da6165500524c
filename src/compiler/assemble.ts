/** Puts what it needs around a generated template. */
import type { GeneratedTemplate } from './generate.ts';
import { literal } from './parts.ts';

/** JavaScript text, and how far its generated part stands from the start. */
export interface Assembled {
  code: string;
  /** Where the code of the generator begins, in UTF-16 code units. */
  offset: number;
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
