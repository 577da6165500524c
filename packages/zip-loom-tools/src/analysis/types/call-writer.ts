/** Calls of templates as TypeScript, and attributes of other elements. */
import { argumentName, calledBy, declarationOf, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import { type Attribute, type Clause, type Element, nameSpan, type Spread } from 'zip-loom/internal/language';
import type { MappedText } from './mapped-text.ts';
import { writeArgument, writeExpression, writeOfType, writeParts, writeUse } from './values.ts';

type Item = Element['items'][number];

/** What a template is given by the form that is bound around its call. */
const handedOn = ['form', 'written', 'summary'];

/** Attributes that are no arguments: each value is used as it is. */
export function writeItems(out: MappedText, items: readonly Item[]): void {
  for (const item of items) {
    if (item.kind === 'spread') writeOfType(out, 'Spreadable', item.expression);
    if (item.kind !== 'attribute' || !item.value) continue;
    const [only] = item.value;
    if (item.value.length === 1 && only?.kind === 'substitution') writeUse(out, only.expression);
    else writeParts(out, item.value);
  }
}

export interface CallWriterSettings {
  out: MappedText;
  set: TemplateSet;
  caller: Template;
  /** The function of a template as the module names it; `undefined` where it has no module. */
  bodyOf(template: Template): string | undefined;
}

export class CallWriter {
  private readonly settings: CallWriterSettings;

  constructor(settings: CallWriterSettings) {
    this.settings = settings;
  }

  /**
   * Writes the call that an element makes.
   * @param isBound whether a form is bound around it
   * @returns the function that is called, or `undefined` where the element calls none that is known
   */
  write(element: Element, isBound: boolean): string | undefined {
    const { set, caller } = this.settings;
    const template = calledBy(element, caller, set);
    const items = element.items.filter((item) => item.kind === 'attribute' || item.kind === 'spread');
    // That one names the slot of another call which this one fills.
    const given = items.filter((item) => !(item.kind === 'attribute' && item.name === 'slot'));
    return template && this.call(template, given, nameSpan(element), isBound);
  }

  /** The arguments of a layout. */
  writeLayout(template: Template, clause: Extract<Clause, { kind: 'layout' }> | undefined): string | undefined {
    return this.call(template, clause?.items ?? [], clause?.nameSpan ?? { start: 0, end: 0 }, false);
  }

  /** What a slot gives: `{ row: (row), index: (i) }`. */
  writeGiven(slot: Element): void {
    const { out } = this.settings;
    out.write('{ ');
    for (const item of slot.items) {
      if (item.kind !== 'attribute' || item.name === 'name' || item.name === 'slot') continue;
      out.write(`${JSON.stringify(argumentName(item.name))}: `);
      writeArgument(out, item.value);
      out.write(', ');
    }
    out.write('}');
  }

  private call(
    template: Template,
    items: ReadonlyArray<Attribute | Spread>,
    place: Span,
    isBound: boolean,
  ): string | undefined {
    const { out, bodyOf } = this.settings;
    const body = bodyOf(template);
    if (!body) {
      writeItems(out, items);
      return undefined;
    }
    const { parameters, name: call } = template;
    const declaration = declarationOf(template);
    out.mapped(body, place, { kind: 'arguments', call, declaration });
    out.write('(');
    out.mapped('{', place, { kind: 'arguments', call, declaration });
    out.write(' ');
    const isTaken = (name: string) => parameters.some((one) => one.kind !== 'rest' && one.name === name);
    const written = new Set(items.flatMap((item) => (item.kind === 'attribute' ? [argumentName(item.name)] : [])));
    for (const name of handedOn)
      if (isBound && isTaken(name) && !written.has(name)) out.write(`${name}: null as any, `);
    for (const item of items) {
      if (item.kind === 'spread') {
        out.write('...');
        writeExpression(out, item.expression);
      } else {
        const name = isTaken(argumentName(item.name)) ? argumentName(item.name) : item.name;
        out.mapped(JSON.stringify(name), item.nameSpan, { kind: 'argument', name, call, declaration });
        out.write(': ');
        writeArgument(out, item.value);
      }
      out.write(', ');
    }
    out.write('});\n');
    return body;
  }
}
