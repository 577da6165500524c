/**
 * Which names a type has, where a property is missing and TypeScript proposes none: it does not see that two letters are swapped.
 * The module is written once more with a question in place of each such property, and what TypeScript says of it lists the names.
 */
import type { MemberExpression } from 'acorn';
import { expressionsOf, visit } from 'zip-loom/internal/language';
import { type CompilerMessage, offsetIn } from './compiler-output.ts';
import { type Piece, pieceAt } from './mapped-text.ts';
import type { TypedModule } from './typed-modules.ts';

/** “Property '…' does not exist on type '…'.” */
const missingProperty = 2339;

/** Modules with questions, beside those that they are about; none where nothing is to be asked. */
export function nameQuestions(
  messages: readonly CompilerMessage[],
  moduleOf: (file: string) => TypedModule | undefined,
): TypedModule[] {
  const asked = new Map<TypedModule, Question[]>();
  for (const message of messages) {
    const module = message.file === undefined ? undefined : moduleOf(message.file);
    const question =
      module?.template && !module.origin && message.code === missingProperty && questionOf(message, module);
    if (module && question) asked.set(module, [...(asked.get(module) ?? []), question]);
  }
  return [...asked].map(([module, questions]) => withQuestions(module, questions));
}

/**
 * The answers.
 * @param messages what the compiler said of the modules with questions
 * @returns the names that there are, by file and offset of the one that is missing
 */
export function namesFound(
  messages: readonly CompilerMessage[],
  moduleOf: (file: string) => TypedModule | undefined,
): (file: string, offset: number) => readonly string[] {
  const found = new Map<string, string[]>();
  for (const message of messages) {
    const module = message.file === undefined ? undefined : moduleOf(message.file);
    const piece = module && pieceAt(module.pieces, offsetIn(module.text, message));
    const [, names] = /to parameter of type '(.+)'\./.exec(message.text) ?? [];
    if (!piece || names === undefined) continue;
    const key = `${module.template!.tree.file}\n${piece.place.start}`;
    found.set(
      key,
      [...names.matchAll(/"([^"]+)"/g)].map(([, name]) => name!),
    );
  }
  return (file, offset) => found.get(`${file}\n${offset}`) ?? [];
}

/** What is read of which part of the module’s text. */
interface Question {
  /** The whole `berth.nmae`. */
  start: number;
  end: number;
  /** The text of what is read. */
  object: string;
  name: string;
  /** Where the name is in the template. */
  place: Piece['place'];
}

function questionOf(message: CompilerMessage, { text, pieces, template }: TypedModule): Question | undefined {
  const offset = offsetIn(text, message);
  const piece = pieceAt(pieces, offset);
  if (!piece?.isSame) return undefined;
  const { tree } = template!;
  const shift = piece.start - piece.place.start;
  let found: Question | undefined;
  for (const { start, end, syntax } of expressionsOf(tree.children)) {
    if (offset - shift < start || offset - shift >= end) continue;
    visit(syntax, (node) => {
      if (node.type !== 'MemberExpression') return;
      const { object, property, computed } = node as MemberExpression;
      if (computed || property.type !== 'Identifier' || property.start !== offset - shift) return;
      found = {
        start: object.start + shift,
        end: property.end + shift,
        object: tree.source.slice(object.start, object.end),
        name: property.name,
        place: { start: property.start, end: property.end },
      };
    });
  }
  return found;
}

/** `berth.nmae` → `$.named(berth, "nmae")` */
function withQuestions(module: TypedModule, questions: readonly Question[]): TypedModule {
  const pieces: Piece[] = [];
  let text = '';
  let done = 0;
  for (const { start, end, object, name, place } of [...questions].sort((one, other) => one.start - other.start)) {
    // A question within another one is asked when that is answered.
    if (start < done) continue;
    text += `${module.text.slice(done, start)}$.named(${object}, `;
    const at = text.length;
    text += JSON.stringify(name);
    pieces.push({ start: at, end: text.length, place, subject: { kind: 'expression' }, isSame: false });
    text += ')';
    done = end;
  }
  return {
    path: module.path.replace(/\.ts$/, '.names.ts'),
    text: text + module.text.slice(done),
    pieces,
    template: module.template,
  };
}
