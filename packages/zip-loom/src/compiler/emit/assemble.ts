/** Puts what it needs around a generated template. */

import { literal } from '../code.ts';
import type { GeneratedModule, GeneratedTemplate } from './generate.ts';

/** JavaScript text, and how far its generated part is from the start. */
export interface Assembled {
  code: string;
  generated: GeneratedTemplate;
  /** Where the code of the generator begins, in UTF-16 code units. */
  offset: number;
}

/** The body of a function of `runtime` (the run-time’s functions) and `link` (from a template’s id to its function). */
export function assembleFunctionBody({ templates, runtimeNames, templateNames }: GeneratedModule): Assembled {
  const generated = templates[0]!;
  const links = [...templateNames]
    .filter(([template]) => template !== generated.template)
    .map(([template, name]) => `const ${name} = link(${literal(template.id)});\n`);
  const names = pairs(runtimeNames, ': ');
  const before = `${names ? `const { ${names} } = runtime;\n` : ''}${links.join('')}\n`;
  return { code: `${before}${generated.code}\nreturn ${generated.renderName};\n`, generated, offset: before.length };
}

function pairs(names: ReadonlyMap<string, string>, between: string): string {
  return [...names].map(([name, local]) => (name === local ? name : name + between + local)).join(', ');
}
