/**
 * The body of a template as TypeScript: the same names, the same conditions, in the same order, so that TypeScript narrows and infers
 * as a reader would. It is never run.
 */
import { type Branch, groupSiblings, isSlotElement, slotName } from 'zip-loom/internal/compiler';
import {
  attributeOf,
  type Binding,
  type Clause,
  clausesOf,
  type Element,
  type Expression,
  fixedValue,
  type Parameter,
  type TemplateNode,
} from 'zip-loom/internal/language';
import { type CallWriter, writeItems } from './call-writer.ts';
import type { MappedText, Subject } from './mapped-text.ts';
import { nameWithNumbers, type Value, writeCall, writeParts, writePrinted, writeUse } from './values.ts';

/** What the children of a call, or of a page with a layout, fill. */
export interface Filled {
  /** The function of the template whose slots they are, as the module names it. */
  body: string;
  /** The names that each slot gives, as its first fill asks for them. */
  takes: Map<string, readonly Parameter[]>;
}

/** An element, its branches and where it stands, while its clauses are written from left to right. */
interface Opening {
  branches: readonly Branch[];
  at: number;
  filled: Filled | undefined;
  /** What the slot gives and is not bound yet. */
  given: readonly Parameter[];
  /** Whether its alternatives are still to be written. */
  hasAlternatives: boolean;
}

export class TemplateWriter {
  private readonly out: MappedText;
  private readonly calls: CallWriter;
  private readonly source: string;
  /** Whether slots were written. */
  givesValues = false;
  /** Of constants that are made on the way. */
  private count = 0;
  /** The forms that are bound around: their constants, and how templates name them. */
  private readonly forms: Array<{ constant: string; code: string }> = [];

  constructor(out: MappedText, calls: CallWriter, source: string) {
    this.out = out;
    this.calls = calls;
    this.source = source;
  }

  nodes(nodes: readonly TemplateNode[], filled?: Filled, isPrinted = true): void {
    // What cannot be grouped is reported elsewhere.
    for (const sibling of groupSiblings(nodes, this.source, () => {})) {
      if (sibling.kind === 'chain') this.branch(sibling.branches, 0, filled);
      else if (sibling.node.kind === 'element') this.branch([{ before: [], element: sibling.node }], 0, filled);
      else if (sibling.node.kind === 'substitution') {
        const { expression } = sibling.node;
        if (isPrinted) writePrinted(this.out, expression);
        else writeUse(this.out, expression);
      }
    }
  }

  private branch(branches: readonly Branch[], at: number, filled: Filled | undefined): void {
    const { element } = branches[at]!;
    const given = filled ? this.givenBySlot(element, filled) : [];
    this.clauses(clausesOf(element), { branches, at, filled, given, hasAlternatives: at + 1 < branches.length });
  }

  private block(write: () => void, head = ''): void {
    this.out.write(`${head}{\n`);
    write();
    this.out.write('}\n');
  }

  /** The first clause is around all others, and they are around the element. */
  private clauses([clause, ...rest]: readonly Clause[], opening: Opening): void {
    const { out } = this;
    // What decides about a fill is asked before the slot gives it anything.
    const isAsked = clause?.kind === 'if' || clause?.kind === 'else-if' || clause?.kind === 'else';
    if (opening.given.length > 0 && !isAsked) {
      this.block(() => {
        this.bindGiven(opening);
        this.clauses(clause ? [clause, ...rest] : [], { ...opening, given: [] });
      });
      return;
    }
    if (!clause) {
      this.element(opening);
      return;
    }
    const inside = (next = opening) => this.clauses(rest, next);
    const { branches, at } = opening;
    const isFirst = opening.hasAlternatives;
    const decided = { ...opening, hasAlternatives: false };
    switch (clause.kind) {
      case 'if':
      case 'else-if':
        out.write('if (');
        out.same(clause.condition.code, clause.condition);
        this.block(() => inside(decided), ') ');
        if (isFirst) this.block(() => this.branch(branches, at + 1, opening.filled), 'else ');
        return;
      case 'for': {
        const items = this.constant(clause.index ? 'eachWithIndex' : 'each', clause.items, { kind: 'items' });
        out.write('for (const ');
        if (clause.index) out.write('[');
        out.same(clause.item.code, clause.item);
        if (clause.index) {
          out.write(', ');
          out.same(clause.index.code, clause.index);
          out.write(']');
        }
        this.block(() => inside(decided), ` of ${items}) `);
        if (isFirst) this.block(() => this.branch(branches, at + 1, opening.filled));
        return;
      }
      case 'let':
        this.bindings(clause.bindings, 'same', inside);
        return;
      case 'await': {
        const { meanwhile, failed } = branches[at]!;
        for (const companion of [meanwhile, failed])
          if (companion) this.block(() => this.branch([companion], 0, opening.filled));
        this.bindings(clause.bindings, 'settled', inside);
        return;
      }
      case 'catch':
        this.block(() => {
          if (clause.error) this.bind(clause.error, '$.caught');
          inside();
        });
        return;
      case 'bind': {
        const constant = this.constant('bind', clause.form);
        this.forms.push({ constant, code: clause.form.code });
        inside();
        this.forms.pop();
        return;
      }
      case 'errors':
        writeParts(out, clause.path);
        this.field(clause.path);
        this.block(() => {
          out.write('const errors = $.errors;\n');
          inside();
        });
        return;
      case 'region':
        writeParts(out, clause.name);
        writeItems(out, clause.items);
        inside();
        return;
      case 'add':
      case 'remove':
      case 'select-all':
        writeParts(out, namesOf(clause));
        this.field(clause.kind === 'select-all' ? clause.boxes : clause.list);
        inside();
        return;
      default:
        inside();
    }
  }

  /** One after another, each seen by the next; a value does not see the name that it is given. */
  private bindings(
    [first, ...rest]: ReadonlyArray<{ binding: Binding; value: Expression }>,
    how: 'same' | 'settled',
    inside: () => void,
  ): void {
    if (!first) {
      inside();
      return;
    }
    const constant = this.constant(how, first.value);
    this.block(() => {
      this.bind(first.binding, constant);
      this.bindings(rest, how, inside);
    });
  }

  private constant(how: string, value: Expression, subject?: Subject): string {
    const constant = `$${++this.count}`;
    this.out.write(`const ${constant} = `);
    writeCall(this.out, how, value, subject);
    return constant;
  }

  private bind(binding: Binding, value: string): void {
    this.out.write('const ');
    this.out.same(binding.code, binding);
    this.out.write(` = ${value};\n`);
  }

  /** What a slot gives to a fill: the names that its first fill with (takes …) asks for. */
  private givenBySlot(element: Element, { takes }: Filled): readonly Parameter[] {
    const slot = attributeOf(element, 'slot');
    if (!slot) return [];
    const name = fixedValue(slot) || 'default';
    const own = clausesOf(element).find((clause) => clause.kind === 'takes');
    const found = takes.get(name) ?? own?.parameters ?? [];
    if (found.length > 0) takes.set(name, found);
    return found;
  }

  private bindGiven({ branches, at, filled, given }: Opening): void {
    const { out } = this;
    const slot = fixedValue(attributeOf(branches[at]!.element, 'slot')) || 'default';
    const constant = `$${++this.count}`;
    out.write(`const ${constant} = $.given<typeof ${filled!.body}, ${JSON.stringify(slot)}>();\n`);
    for (const parameter of given) {
      const { name } = parameter;
      const subject: Subject = { kind: 'given', name, slot };
      out.write('const ');
      out.mapped(name, parameter, subject);
      if (parameter.typeSpan) {
        out.write(': ');
        out.same(parameter.type!, parameter.typeSpan, { kind: 'type' });
      }
      if (parameter.kind === 'rest') out.write(` = ${constant};\n`);
      else if (parameter.kind === 'default') {
        out.write(` = $.either(${constant}.`);
        out.mapped(name, parameter, subject);
        out.write(', (');
        out.same(parameter.fallback.code, parameter.fallback);
        out.write('));\n');
      } else {
        out.write(` = ${constant}.`);
        out.mapped(name, parameter, subject);
        out.write(';\n');
      }
    }
  }

  private element({ branches, at, filled }: Opening): void {
    const { element } = branches[at]!;
    const { out, calls } = this;
    const body = calls.write(element, this.forms.length > 0);
    if (body) {
      this.nodes(element.children, { body, takes: new Map() });
      return;
    }
    if (isSlotElement(element)) {
      this.givesValues = true;
      out.write(`yield $.gives(${JSON.stringify(slotName(element))}, `);
      calls.writeGiven(element);
      out.write(');\n');
    } else writeItems(out, element.items);
    const name = attributeOf(element, 'name');
    if (name?.value && controls.has(element.name)) this.field(name.value);
    const isGroup = element.name === 'template' && clausesOf(element).length > 0 && !attributeOf(element, 'slot');
    this.nodes(element.children, isGroup ? filled : undefined, element.name !== 'script');
  }

  /** The name of a field has to be one of the bound form. */
  private field(value: Value): void {
    const form = this.forms.at(-1);
    const [first] = value;
    if (!form || !first) return;
    const { out } = this;
    out.write(`$.field(${form.constant}, `);
    const place = { start: first.start, end: value.at(-1)!.end };
    out.mapped(JSON.stringify(nameWithNumbers(value)), place, { kind: 'field', form: form.code });
    out.write(');\n');
  }
}

/** Elements that show a field by their names; a button may have one of its own. */
const controls = new Set(['input', 'select', 'textarea', 'form-field']);

/** The names of fields that a button or a box is about. */
function namesOf(clause: Extract<Clause, { kind: 'add' | 'remove' | 'select-all' }>): Value {
  if (clause.kind === 'select-all') return clause.boxes;
  return clause.kind === 'add' ? clause.list : [...clause.list, ...clause.index];
}
