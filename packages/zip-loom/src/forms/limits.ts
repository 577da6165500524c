/** How much of a submission is read. Each limit ends in a result that says so, never in an error that is thrown. */
export interface Limits {
  /** Bytes of a body without files. Default: 1 MiB. */
  body: number;
  /** Files. Default: 20. */
  files: number;
  /** Bytes of one file. Default: 10 MiB. */
  file: number;
  /** Bytes of all files of a submission. Default: 50 MiB. */
  allFiles: number;
  /** Names and values. Default: 1,000. */
  fields: number;
  /** Code units of a name. Default: 200. */
  name: number;
  /** Steps of a name, as three in `crew[0].name`. Default: 8. */
  depth: number;
  /** Items of a list. Default: 1,000. */
  list: number;
  /** Milliseconds between two pieces of a body. Default: 30 seconds. */
  pause: number;
  /** Milliseconds for a whole body. Default: 10 minutes. */
  duration: number;
}

export const defaultLimits: Limits = {
  body: 2 ** 20,
  files: 20,
  file: 10 * 2 ** 20,
  allFiles: 50 * 2 ** 20,
  fields: 1000,
  name: 200,
  depth: 8,
  list: 1000,
  pause: 30_000,
  duration: 600_000,
};
