/** `zip-loom/testing`: pages and forms in users’ own tests, without a browser. */
export {
  type Application,
  createVisitor,
  type FetchHandler,
  type FormValue,
  type FormValues,
  type Page,
  type SubmitOptions,
  submit,
  type Visitor,
  visit,
} from './testing/index.ts';
