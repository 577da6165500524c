/** How a request is read without a loom. */
export interface ReadRequestOptions {
  /** Says that no token is looked for. */
  token?: false;
  /** The names that are read; default: all of the form. */
  only?: readonly string[];
}
