/** Text → tree: the HTML tokenizer with substitutions and clauses. No I/O. */
export { continuesName } from './characters.ts';
export { type ClauseWord, clauseForms } from './clause-forms.ts';
export { isCallName, isJSONScriptType } from './elements.ts';
export { escapedText, type LiteralMarkup, literalMarkup, printedText } from './literal-markup.ts';
export { type FreeName, fieldsOf, freeNames, visit } from './names.ts';
export { browserElements, type ParseResult, parseTemplate } from './parser.ts';
export { wordsOfAttributes } from './takes.ts';
export {
  type Attribute,
  attributeOf,
  type Binding,
  type Clause,
  type ClauseKind,
  type Comment,
  clauseOf,
  clausesOf,
  type Element,
  type Expression,
  endNameSpan,
  fixedValue,
  type Namespace,
  nameSpan,
  type Parameter,
  type Spread,
  type Substitution,
  type TemplateNode,
  type TemplateTree,
  type Text,
} from './tree.ts';
export { elementsOf, expressionsOf, tagExpressions, walk } from './walk.ts';
export {
  endOfContent,
  endsLine,
  isBlankText,
  isContent,
  isSpace,
  keyword,
  skipSpace,
  spaceBefore,
  spacedWords,
  startsLine,
  startsWithLineEnd,
  trimBlank,
  trimBlock,
  trimSpace,
  trimStart,
  withoutBlankLastLine,
  withoutIndent,
} from './whitespace.ts';
