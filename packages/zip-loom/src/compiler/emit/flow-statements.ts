/** Parts that choose, repeat, name and wait → statements. */
import type { Binding } from '../../language/index.ts';
import { commaList, js, literal, out, quietCode, runtime } from '../code.ts';
import type { Part } from '../parts.ts';
import type { CodeWriter } from './code-writer.ts';
import type { UniqueNames } from './unique-names.ts';

/** Where statements are printed, and how the parts inside them are. */
export interface FlowOutput {
  writer: CodeWriter;
  names: UniqueNames;
  parts(parts: Part[]): void;
}

export type FlowPart = Extract<Part, { kind: 'if' | 'for' | 'let' | 'await' }>;

export function printFlow(part: FlowPart, to: FlowOutput): void {
  switch (part.kind) {
    case 'if':
      printIf(part, to);
      break;
    case 'for':
      printFor(part, to);
      break;
    case 'let':
      printLet(part, to);
      break;
    case 'await':
      printAwait(part, to);
      break;
  }
}

function printIf(part: Extract<Part, { kind: 'if' }>, to: FlowOutput): void {
  const blocks = part.branches.map(({ condition, parts }, index) => {
    const test = condition ? js`if (${condition}) {` : js`{`;
    return { open: index === 0 ? test : js`} else ${test}`, inside: () => to.parts(parts) };
  });
  to.writer.chain(blocks);
}

function printFor(part: Extract<Part, { kind: 'for' }>, to: FlowOutput): void {
  const parameters = part.index ? `${part.item.code}, ${part.index.code}` : part.item.code;
  const { otherwise } = part;
  const blocks = [
    {
      open: js`${runtime('each')}(${out}, ${part.items}, (${parameters}) => {`,
      inside: () => to.parts(part.parts),
    },
  ];
  if (otherwise) blocks.push({ open: js`}, () => {`, inside: () => to.parts(otherwise) });
  to.writer.chain(blocks, '});');
}

/** `wait(out, (E) => new E(), () => [weather()], ([w]) => {…}, …)`: the first function is called where the stack of an error must tell this place. */
function printAwait(part: Extract<Part, { kind: 'await' }>, to: FlowOutput): void {
  const { values, bindings, meanwhile, failed, namespace } = part;
  const given = commaList(values.map((value) => js`${value}`));
  const names = bindings.map(({ code }) => code).join(', ');
  to.writer.mark(part.place);
  const blocks = [
    {
      open: js`${runtime('wait')}(${out}, (E) => new E(), () => [${given}], ([${names}]) => {`,
      inside: () => to.parts(part.parts),
    },
  ];
  if (meanwhile) blocks.push({ open: js`}, () => {`, inside: () => to.parts(meanwhile) });
  if (failed) {
    const open = meanwhile
      ? js`}, (${failed.error?.code ?? ''}) => {`
      : js`}, undefined, (${failed.error?.code ?? ''}) => {`;
    blocks.push({ open, inside: () => to.parts(failed.parts) });
  }
  const nothing = failed ? '' : meanwhile ? ', undefined' : ', undefined, undefined';
  to.writer.chain(blocks, namespace === 'html' || !meanwhile ? '});' : `}${nothing}, ${literal(namespace)});`);
}

/** `(let a = a + 1)` reads the outer `a`, so such a value is worked out before its name exists. */
function printLet(part: Extract<Part, { kind: 'let' }>, to: FlowOutput): void {
  const first = part.bindings[0];
  if (!first) {
    to.parts(part.parts);
    return;
  }
  const rest = { ...part, bindings: part.bindings.slice(1) };
  if (!mentions(first.value.code, first.binding)) {
    to.writer.block('{', () => {
      to.writer.line(js`const ${first.binding.code} = ${quietCode(first.value)};`);
      printLet(rest, to);
    });
    return;
  }
  const outer = to.names.fresh('outer');
  to.writer.block('{', () => {
    to.writer.line(js`const ${outer} = ${quietCode(first.value)};`);
    to.writer.block('{', () => {
      to.writer.line(js`const ${first.binding.code} = ${outer};`);
      printLet(rest, to);
    });
  });
}

function mentions(code: string, binding: Binding): boolean {
  return binding.names.some((name) => code.includes(name));
}
