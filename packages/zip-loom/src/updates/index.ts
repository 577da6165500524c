/** Partial updates on the server: what the browser has, what differs, and changes by name. */
export { type Answer, answerOnly, answerParts, pageList } from './answer.ts';
export { actionOf, assertTarget, Change, Content, contentOf, newChange } from './change.ts';
export { changeMarkup, headMarkup, tokenMarkup } from './change-markup.ts';
export { updateDiagnostic } from './diagnostics.ts';
export { type PartialRequest, readPartialRequest } from './partial-request.ts';
