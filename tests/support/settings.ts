/** What many tests give a loom. */

/** Long and varied enough for production. */
export const secret = 'a secret for tests alone';

/** Keeps what is logged to itself. */
export const quietLogger = { warn: () => {}, error: () => {} };
