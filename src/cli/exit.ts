/** Exit codes of every command. */
export const EXIT = { ready: 0, hold: 1, usage: 2, nothing: 3, failed: 4 } as const;

/** Bad usage, said in one line. */
export class UsageError extends Error {}
