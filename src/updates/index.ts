/** Partial updates on the server: what the browser has, and what differs. */
export { type Answer, answerOnly, answerParts, pageList } from './answer.ts';
export { type PartialRequest, readPartialRequest } from './partial-request.ts';
