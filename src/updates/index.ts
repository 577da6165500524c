/** Partial updates on the server: what the browser has, and what differs. */
export { type Answer, answerOnly, answerParts, pageList, type RenderedPage } from './answer.ts';
export { type Asking, clientCookie, readAsking, vary } from './wire.ts';
