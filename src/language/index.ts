/** Text → tree: the HTML tokenizer with substitutions and clauses, and the errors of templates. No I/O. */
export { continuesName, isBlankText, isSpace, skipSpace } from './characters.ts';
export { isCallName, isJSONScriptType } from './elements.ts';
export { expressionsOf } from './expressions-of.ts';
export { Lines, type Position } from './lines.ts';
export { type FreeName, freeNames, visit } from './names.ts';
export { didYouMean } from './nearest.ts';
export { browserElements, type ParseOptions, type ParseResult, parseTemplate } from './parser.ts';
export {
  type CallSite,
  type Complaint,
  formatCalls,
  type Problem,
  type Report,
  TemplateError,
  type TemplateErrorDetails,
} from './problem.ts';
export { limitedReport, TooManyProblems } from './report.ts';
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
  fixedValue,
  type Namespace,
  type Parameter,
  type Span,
  type Spread,
  type Substitution,
  type TagItem,
  type TemplateNode,
  type TemplateTree,
  type Text,
} from './tree.ts';
