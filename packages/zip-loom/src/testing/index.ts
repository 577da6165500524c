/** `zip-loom/testing`: pages and forms in users’ own tests, without a browser. */
export type { Application, FetchHandler } from './application.ts';
export type { FormValue, FormValues, SubmitOptions } from './fill.ts';
export type { Page } from './page.ts';
export { createVisitor, submit, type Visitor, visit } from './visitor.ts';
