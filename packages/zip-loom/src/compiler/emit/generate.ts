/** Resolved template → JavaScript: plain functions that append to an output, written so that a developer can read them. */

import {
  type Code,
  fillAccess,
  fillEntry,
  joined,
  js,
  lengthOf,
  literal,
  longestLine,
  type Name,
  out,
  propertyName,
  runtime,
} from '../code.ts';
import type { LoweredTemplate } from '../lower/lower-template.ts';
import type { FillPart, Part } from '../parts.ts';
import type { Template } from '../set/template.ts';
import { CodeWriter, type Mapping } from './code-writer.ts';
import { printFlow } from './flow-statements.ts';
import { codeOf } from './identifiers.ts';
import { functionName, UniqueNames } from './unique-names.ts';

/** The JavaScript of one template: a function, without the imports that it needs. */
export interface GeneratedTemplate {
  template: Template;
  code: string;
  mappings: Mapping[];
  /** What the function is called. */
  renderName: string;
}

/** The JavaScript of templates that are in one module. */
export interface GeneratedModule {
  templates: GeneratedTemplate[];
  /** Functions of the run-time that the code uses: their name → what the code calls them. */
  runtimeNames: ReadonlyMap<string, string>;
  /** Templates that the code calls, those of the module among them → what the code calls them. */
  templateNames: ReadonlyMap<Template, string>;
}

/** Prints templates that are in one module. */
export function generateModule(resolved: readonly LoweredTemplate[]): GeneratedModule {
  const names = UniqueNames.forModule(codeOf(new Set(resolved.map(({ template }) => template.tree))));
  const templateNames = new Map<Template, string>();
  const templates = resolved.map((one): GeneratedTemplate => {
    const generator = new Generator(one, names.forFunction(), (template) => {
      const known = templateNames.get(template) ?? names.fresh(functionName(template));
      templateNames.set(template, known);
      return known;
    });
    const renderName = generator.templateName(one.template);
    generator.render(renderName);
    const { writer } = generator;
    return { template: one.template, code: writer.text(), mappings: writer.mappings, renderName };
  });
  return { templates, runtimeNames: names.runtimeNames, templateNames };
}

class Generator {
  readonly writer: CodeWriter;
  /** What the module calls a template. */
  readonly templateName: (template: Template) => string;
  private readonly lowered: LoweredTemplate;
  private readonly names: UniqueNames;

  constructor(lowered: LoweredTemplate, names: UniqueNames, templateName: (template: Template) => string) {
    this.lowered = lowered;
    this.names = names;
    this.templateName = templateName;
    this.writer = new CodeWriter((name) => this.nameOf(name), lowered.checksParts);
  }

  render(name: string): void {
    const { layout, parameters, used, openSlots } = this.lowered;
    const values = this.names.frame('values');
    const fills = this.names.frame('fills');
    const around = layout && this.names.fresh('layout');
    const known = layout?.template ? ` = ${this.templateName(layout.template)}` : '';
    const last = around ? `, ${around}${known}` : '';
    const { hoisted } = this.lowered;
    for (const one of hoisted) this.writer.line(js`const ${one.name} = ${one.value};`);
    if (hoisted.length > 0) this.writer.line('');
    this.writer.block(js`function ${name}(${out}, ${values}, ${fills}${last}) {`, () => {
      if (used.helpers.size > 0) this.writer.line(js`const { ${[...used.helpers].join(', ')} } = ${out}.helpers;`);
      for (const name of ['context', 'helpers'] as const)
        if (used.builtIns.has(name)) this.writer.line(js`const { ${name} } = ${out};`);
      if (used.builtIns.has('slots')) {
        const entries = [...openSlots].map((slot) => `${propertyName(slot)}: ${this.fillOf(slot)} !== undefined`);
        this.writer.line(`const slots = { ${entries.join(', ')} };`);
      }
      if (parameters) this.writer.line(js`const ${parameters} = ${values};`);
      if (layout && around) this.layoutCall(around, layout);
      else this.parts(this.lowered.parts);
    });
  }

  private layoutCall(around: string, layout: NonNullable<LoweredTemplate['layout']>): void {
    const own = new Map(layout.fills.map((fill) => [fill.slot, fill]));
    const handedOn = layout.handedOn
      .filter((slot) => !own.has(slot))
      .map((slot) => `${fillEntry(slot)} ${this.fillOf(slot)},`);
    this.writer.mark(this.lowered.template.layoutClause ?? { start: 0, end: 1 });
    this.writer.block(
      js`${around}(${out}, ${layout.values}, {`,
      () => {
        for (const entry of handedOn) this.writer.line(entry);
        for (const fill of layout.fills) {
          const entry = fillEntry(fill.slot);
          const isOver = layout.handedOn.includes(fill.slot);
          if (isOver) this.fill(fill, js`${entry} ${runtime('over')}(${this.fillOf(fill.slot)}, `, js`),`);
          else this.fill(fill, js`${entry} `, js`,`);
        }
      },
      '});',
    );
  }

  /** A fill as a function expression between two pieces of code. */
  private fill(fill: FillPart, before: Code, after: Code): void {
    const isAlways = fill.pieces.some((piece) => piece.condition === undefined);
    const conditions = isAlways ? [] : fill.pieces.map((piece) => js`(${piece.condition!})`);
    const test = joined(conditions, ' || ');
    const base = this.names.frame('inherited');
    const usesBase = fill.showsInherited;
    const values = fill.takes ? js`${fill.takes} = {}` : usesBase ? js`${this.names.frame('given')}` : js``;
    const parameters = usesBase ? js`${values}, ${base}` : values;
    this.writer.block(
      isAlways ? js`${before}(${parameters}) => {` : js`${before}${test} ? (${parameters}) => {`,
      () => {
        for (const piece of fill.pieces) {
          if (piece.condition && fill.pieces.length > 1) {
            this.writer.block(js`if (${piece.condition}) {`, () => this.parts(piece.parts));
          } else {
            this.parts(piece.parts);
          }
        }
      },
      isAlways ? js`}${after}` : js`} : undefined${after}`,
    );
  }

  private parts(parts: Part[]): void {
    let printed: Code[] = [];
    let text = '';
    const flushText = () => {
      if (text !== '') printed.push(js`${literal(text)}`);
      text = '';
    };
    const flush = () => {
      flushText();
      this.print(printed);
      printed = [];
    };
    const add = (part: Part): void => {
      if (part.kind === 'static') {
        text += part.text;
      } else if (part.kind === 'value') {
        flushText();
        printed.push(part.code);
      } else if (part.kind === 'const' && typeof part.name !== 'string') {
        // No other name in the function is like it, so it needs no block of its own.
        this.constant(part);
        part.parts.forEach(add);
      } else {
        flush();
        this.statement(part);
      }
    };
    parts.forEach(add);
    flush();
  }

  private constant({ name, value, place }: Extract<Part, { kind: 'const' }>): void {
    this.writer.mark(place);
    this.writer.line(js`const ${name} = ${value};`);
  }

  /** `out.s += a + b + c;`, one value a line when they are too long for one. */
  private print(pieces: Code[]): void {
    if (pieces.length === 0) return;
    if (pieces.length <= 3 || pieces.reduce((length, piece) => length + lengthOf(piece), 0) < longestLine) {
      this.writer.line(js`${out}.s += ${joined(pieces, ' + ')};`);
      return;
    }
    this.writer.lines(
      js`${out}.s +=`,
      pieces.map((piece, index) => js`${piece}${index === pieces.length - 1 ? ';' : ' +'}`),
    );
  }

  private statement(part: Exclude<Part, { kind: 'static' } | { kind: 'value' }>): void {
    switch (part.kind) {
      case 'if':
      case 'for':
      case 'let':
      case 'await':
        printFlow(part, { writer: this.writer, names: this.names, parts: (parts) => this.parts(parts) });
        break;
      case 'skippable':
        this.writer.block(js`if (!${runtime('skips')}(${out})) {`, () => this.parts(part.parts));
        break;
      case 'lead':
        this.lead(part);
        break;
      case 'call':
        this.call(part);
        break;
      case 'run':
        this.writer.line(js`${part.code};`);
        break;
      case 'region':
        this.writer.mark(part.place);
        this.writer.block(js`if (${part.enter}) {`, () => {
          this.parts(part.parts);
          this.writer.line(js`${runtime('leaveRegion')}(${out});`);
        });
        break;
      case 'slot':
        this.slot(part);
        break;
      case 'const':
        this.writer.block('{', () => {
          this.constant(part);
          this.parts(part.parts);
        });
        break;
      case 'inherited':
        this.writer.line(`${this.names.frame('inherited')}?.();`);
    }
  }

  /** Prints the text first, and takes it away again where nothing follows. */
  private lead({ text, parts }: Extract<Part, { kind: 'lead' }>): void {
    if (text === '') {
      this.parts(parts);
      return;
    }
    const length = this.names.fresh('length');
    this.writer.line(js`${out}.s += ${literal(text)};`);
    this.writer.line(js`const ${length} = ${runtime('written')}(${out});`);
    this.parts(parts);
    this.writer.line(
      js`if (${runtime('written')}(${out}) === ${length}) ${out}.s = ${out}.s.slice(0, -${String(text.length)});`,
    );
  }

  private call(part: Extract<Part, { kind: 'call' }>): void {
    const name = this.templateName(part.template);
    if (part.recursive) {
      this.writer.mark(part.place);
      this.writer.line(js`${runtime('descend')}(${out});`);
    }
    this.writer.mark(part.place);
    if (part.fills.length === 0) {
      this.writer.line(js`${name}(${out}, ${part.values}, ${runtime('noFills')});`);
    } else {
      this.writer.block(
        js`${name}(${out}, ${part.values}, {`,
        () => {
          for (const fill of part.fills) this.fill(fill, js`${fillEntry(fill.slot)} `, js`,`);
        },
        '});',
      );
    }
    if (part.recursive) this.writer.line(js`${out}.depth--;`);
  }

  private slot(part: Extract<Part, { kind: 'slot' }>): void {
    const fill = this.fillOf(part.name);
    const given = part.values ?? 'undefined';
    if (part.own.length === 0) {
      this.writer.block(`if (${fill}) {`, () => {
        this.parts([{ kind: 'static', text: part.before }]);
        this.writer.line(js`${fill}(${part.values ?? ''});`);
      });
      return;
    }
    const own = this.names.fresh('own');
    this.writer.block(`const ${own} = () => {`, () => this.parts(part.own), '};');
    this.writer.line(js`if (${fill}) ${fill}(${given}, ${own});`);
    this.writer.line(`else ${own}();`);
  }

  private fillOf(slot: string): string {
    return fillAccess(this.names.frame('fills'), slot);
  }

  private nameOf(name: Name): string {
    switch (name.from) {
      case 'runtime':
        return this.names.runtime(name.name);
      case 'frame':
        return this.names.frame(name.name);
      case 'constant':
        return this.names.constant(name.name);
    }
  }
}
