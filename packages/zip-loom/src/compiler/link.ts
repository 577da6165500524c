/** Turns compiled templates into functions at once, for development, tests and templates kept in memory. */

import { placed, TemplateError } from '../diagnostics/index.ts';
import type { Render } from '../kernel/index.ts';
import * as runtime from '../render/index.ts';
import type { Compilation } from './compilation.ts';
import { templateDiagnostic } from './diagnostics.ts';
import { assembleFunctionBody } from './emit/assemble.ts';
import type { Mapping } from './emit/code-writer.ts';
import { circlesOf } from './set/circles.ts';
import type { Template } from './set/template.ts';

/** A place in a template. */
export interface TemplatePlace {
  template: Template;
  /** In UTF-16 code units. */
  offset: number;
  /** How long the expression is that is there, when it is known. */
  length: number;
}

/** Stack frames of compiled templates bear this scheme, so that they can be told from others. */
const scheme = 'zip-loom-template:';

/** Functions of one compilation. */
export class Linker {
  private readonly compilation: Compilation;
  private readonly around: Around;
  /** Tells the stack frames of one compilation from those of another. */
  private readonly number: number;
  private readonly functions = new Map<string, Render>();
  private readonly codes = new Map<string, { code: string; offset: number; mappings: Mapping[]; template: Template }>();
  private static count = 0;

  /** @param around makes of each function what is called in its place */
  constructor(compilation: Compilation, around: Around = (_template, render) => render) {
    this.compilation = compilation;
    this.around = around;
    this.number = ++Linker.count;
  }

  /** The function of a template. */
  link(template: Template): Render {
    const made = this.functions.get(template.id);
    if (made) return made;
    // What a template calls comes first: one after another, so that no chain of calls is too long.
    const calledBy = (caller: Template) => (this.functions.has(caller.id) ? [] : this.calledBy(caller));
    for (const group of circlesOf([template], calledBy))
      for (const one of group) if (!this.functions.has(one.id)) this.make(one);
    return this.functions.get(template.id)!;
  }

  private calledBy(template: Template): Iterable<Template> {
    return this.compilation.generate(template).templateNames.keys();
  }

  private make(template: Template): void {
    const module = this.compilation.generate(template);
    const { code, generated, offset } = assembleFunctionBody(module);
    const href = `${scheme}//${this.number}/${encodeURI(template.id).replaceAll('#', '%23')}`;
    const body = `${code}//# sourceURL=${href}\n`;
    const make = functionOf(body, template);
    const byId = new Map([...module.templateNames.keys()].map((called) => [called.id, called]));
    const render = make(runtime, (id) => this.functions.get(id) ?? this.later(byId.get(id)!));
    this.codes.set(href, { code, offset, mappings: generated.mappings, template });
    this.functions.set(template.id, this.around(template, render, this));
  }

  /** Templates that call each other in a circle are looked up when they are called. */
  private later({ id }: Template): Render {
    return (out, values, fills, layout) => this.functions.get(id)!(out, values, fills, layout);
  }

  /** The places of templates in the stack of an error, the innermost first. */
  placesOf(error: Error): TemplatePlace[] {
    const places: TemplatePlace[] = [];
    const frame = /(zip-loom-template:\/\/\d+\/[^\s():]+):(\d+):(\d+)/g;
    for (const [, href, line, column] of (error.stack ?? '').matchAll(frame)) {
      const code = this.codes.get(href!);
      if (code)
        places.push({ template: code.template, ...locate(code, Number(line) - functionHeaderLines, Number(column)) });
    }
    return places;
  }
}

type Around = (template: Template, render: Render, linker: Linker) => Render;

type Make = (names: typeof runtime, link: (id: string) => Render) => Render;

/** @throws {TemplateError} for code that is nested too deeply for ECMAScript’s own parser */
function functionOf(body: string, { tree: { file, source } }: Template): Make {
  try {
    return new Function('runtime', 'link', body) as Make;
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    const diagnostic = placed(templateDiagnostic('nested-too-deeply'), file, { start: 0, end: 1 });
    throw new TemplateError(diagnostic, { source, cause: error });
  }
}

/** `new Function` puts two lines before the body (ECMA-262 §20.2.1.1.1, step 14). */
const functionHeaderLines = 2;

/** From a line and column of generated code, both counted from 1, to the template. */
function locate(
  { code, offset, mappings }: { code: string; offset: number; mappings: Mapping[] },
  line: number,
  column: number,
): { offset: number; length: number } {
  let lineStart = 0;
  for (let at = 1; at < line; at++) lineStart = code.indexOf('\n', lineStart) + 1;
  const generated = lineStart + column - 1 - offset;
  // Inside a stretch that is as it is: the very place.
  const same = mappings.filter((one) => one.kind === 'same');
  const inside = same.find((one) => generated >= one.generated && generated < one.generated + one.length);
  if (inside) {
    return {
      offset: inside.source + (generated - inside.generated),
      length: inside.length - (generated - inside.generated),
    };
  }
  // Else what the line was made for, or the next stretch, as in a call whose argument it is.
  const start = lineStart - offset;
  const madeFor = mappings.find((one) => one.kind === 'line' && one.generated >= start && one.generated <= generated);
  const found = madeFor ?? same.find((one) => one.generated >= generated) ?? same.at(-1);
  return found ? { offset: found.source, length: found.length } : { offset: 0, length: 1 };
}
