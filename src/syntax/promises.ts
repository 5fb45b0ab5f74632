/** Methods of promises that give a promise. */
export const CHAINS: ReadonlySet<string> = new Set(['then', 'catch', 'finally']);
