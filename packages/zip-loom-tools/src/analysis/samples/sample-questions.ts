/** A question to TypeScript: what data do templates take, down to its last value? */
import { type Compilation, isBuiltIn, type Template } from 'zip-loom/internal/compiler';
import type { CompilerMessage } from '../types/compiler-output.ts';
import { modulePath, type TypedModule } from '../types/typed-modules.ts';
import { type DataType, readType } from './type-text.ts';

/** Below the others, in a file of its own. */
const questionModule = 'zip-loom-samples.ts';

/** Names for what is no record: a form, a promise, a function, what is too deep. */
export const marks = { form: '$form', promise: '$promise', call: '$call', deep: '$deep' } as const;

/** Each line is an assignment that cannot be: the message about it tells the type. */
export function sampleQuestion(templates: readonly Template[]): TypedModule {
  const imports = templates.map(
    (template, at) => `import type { body as body${at} } from ${JSON.stringify(`./${modulePath(template)}`)};`,
  );
  const lines = templates.map(
    (_, at) =>
      `export const asked${at}: never = null! as Parameters<typeof body${at}>[0] extends infer Given ? Open<Given, []> : 0;`,
  );
  return {
    path: questionModule,
    text: [...imports, ...lines, opening].join('\n'),
    pieces: [],
    template: undefined,
  };
}

const opening = `
type Leaf = string | number | bigint | boolean | symbol | null | undefined | Date | URL | Blob;
type Open<Value, Depth extends 1[]> =
  0 extends 1 & Value ? any
  : Value extends Leaf ? Value
  : Depth['length'] extends 8 ? { ${marks.deep}: 1 }
  : Value extends (...given: never[]) => infer Result ? { ${marks.call}: Open<Result, [...Depth, 1]> }
  : Value extends PromiseLike<infer Result> ? { ${marks.promise}: Open<Result, [...Depth, 1]> }
  : Value extends { readonly model: unknown; field(...given: never[]): unknown } ? { ${marks.form}: 1 }
  : Value extends readonly [unknown, ...unknown[]] ? { [Index in keyof Value]: Open<Value[Index], [...Depth, 1]> }
  : Value extends ReadonlyArray<infer Item> ? Array<Open<Item, [...Depth, 1]>>
  : Value extends Iterable<infer Item> | AsyncIterable<infer Item> ? Array<Open<Item, [...Depth, 1]>>
  : Value extends infer Known ? { [Name in keyof Known]: Open<Known[Name], [...Depth, 1]> } : never;
`;

/** What the compiler answered, by the template. */
export function sampleTypes(
  templates: readonly Template[],
  messages: readonly CompilerMessage[],
): Map<Template, DataType> {
  const found = new Map<Template, DataType>();
  for (const { line, text } of messages) {
    const template = templates[line - 1 - templates.length];
    const [, type] = /^Type '(.*)' is not assignable to type 'never'\.$/s.exec(text.split('\n')[0]!) ?? [];
    if (template && type !== undefined) found.set(template, readType(type));
  }
  return found;
}

/** Templates of files of their own that take something. */
export function samplable({ set }: Compilation): Template[] {
  return set.templates.filter(
    (one) =>
      !isBuiltIn(one) &&
      !set.broken.has(one.tree) &&
      !one.id.startsWith('layouts/') &&
      !one.id.includes('#') &&
      one.parameters.some(({ kind }) => kind !== 'rest'),
  );
}
