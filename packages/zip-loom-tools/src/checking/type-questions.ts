/** What TypeScript knows of a place in a template: an editor asks it while somebody types. */

import { join } from 'node:path';
import type { Compilation, Template } from 'zip-loom/internal/compiler';
import { Lines } from 'zip-loom/internal/diagnostics';
import { pathOf } from 'zip-loom/internal/node';
import { modulePath, offsetOf, placeOf, templateAt } from '../analysis/index.ts';
import type { TypeCheck } from './type-check.ts';
import {
  type CodePlace,
  type CodeRange,
  codePosition,
  offsetAt,
  startTypeService,
  type TypedDescription,
  type TypedName,
  type TypeService,
} from './type-service/index.ts';

/** An offset of a template’s file, as messages name it. */
export interface TemplatePlace {
  compilation: Compilation;
  file: string;
  offset: number;
}

export class TypeQuestions {
  private readonly check: TypeCheck;
  private readonly current: () => Compilation;
  private service: TypeService | undefined;

  /** @param current the templates as they are: what is asked may be about templates as they would be */
  constructor(check: TypeCheck, current: () => Compilation) {
    this.check = check;
    this.current = current;
  }

  /** Names that may stand at an offset of a template: fields of what is before it, or names of a form’s fields. */
  async completions(place: TemplatePlace): Promise<TypedName[]> {
    return (await this.ask(place, (service, code) => service.completions(code))) ?? [];
  }

  describe(place: TemplatePlace): Promise<TypedDescription | undefined> {
    return this.ask(place, (service, code) => service.describe(code));
  }

  /** Where what stands there is declared: in scripts, declarations or templates. */
  async definitions(place: TemplatePlace): Promise<CodeRange[]> {
    return this.places(place, (service, code) => service.definitions(code));
  }

  /** Every place of the project’s templates, and of the scripts that they are typed by, that means the same. */
  async references(place: TemplatePlace): Promise<CodeRange[]> {
    return this.places(place, (service, code) => service.references(code));
  }

  /** Files of the project have changed. */
  changed(files: readonly string[]): void {
    this.service?.changed(files);
  }

  close(): void {
    this.service?.close();
    this.service = undefined;
  }

  /** `undefined` where there is no TypeScript, or the place has no code of its own. */
  private async ask<Answer>(
    { compilation, file, offset }: TemplatePlace,
    question: (service: TypeService, place: CodePlace) => Promise<Answer>,
  ): Promise<Answer | undefined> {
    const tree = compilation.treeOf(file);
    const template = tree && templateAt(compilation.set, tree, offset);
    const module = template && this.check.moduleOf(template, compilation);
    const at = module && offsetOf(module.pieces, offset);
    if (!module || at === undefined) return undefined;
    const service = this.running();
    return (
      service && question(service, { file: join(this.check.modules.path, module.path), text: module.text, offset: at })
    );
  }

  private async places(
    place: TemplatePlace,
    question: (service: TypeService, place: CodePlace) => Promise<CodeRange[]>,
  ): Promise<CodeRange[]> {
    const { compilation } = place;
    // What is found in other templates is found where they are now.
    this.check.prepare(compilation);
    this.service?.changed(this.check.modules.changes());
    const found = (await this.ask(place, question)) ?? [];
    const { path } = this.check.modules;
    const templates = new Map(compilation.set.templates.map((one) => [join(path, modulePath(one)), one]));
    return found.flatMap((range) => {
      const template = templates.get(pathOf(range.file));
      if (template) return this.placeIn(template, compilation, range) ?? [];
      // What all templates have in common stands for nothing that somebody wrote.
      return pathOf(range.file).startsWith(join(path, '/')) ? [] : range;
    });
  }

  /** What stands in the module of a template stands in the template, unless nobody wrote it. */
  private placeIn(template: Template, compilation: Compilation, range: CodeRange): CodeRange | undefined {
    const { text, pieces } = this.check.moduleOf(template, compilation);
    const written = new Lines(text);
    const span = placeOf(pieces, { start: offsetAt(written, range.start), end: offsetAt(written, range.end) });
    if (!span) return undefined;
    const { lines, file } = template.tree;
    return { file: pathOf(file), start: codePosition(lines, span.start), end: codePosition(lines, span.end) };
  }

  private running(): TypeService | undefined {
    if (this.service) return this.service;
    const prepared = this.check.prepare(this.current());
    const [common] = prepared?.modules ?? [];
    if (!prepared || !common) return undefined;
    this.check.modules.changes();
    this.service = startTypeService(prepared.compiler, {
      file: join(this.check.modules.path, common.path),
      text: common.text,
    });
    return this.service;
  }
}
