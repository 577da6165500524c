/** A call that cannot be followed: its message says why, and what to do. */
export class Refusal extends Error {}
