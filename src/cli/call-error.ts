/** A command that was called wrongly. */
export class CallError extends Error {}
