import type { RunnerName } from '../../environment/tables/runners.js';
import type { FileContext } from './context.js';

const WITH_EACH: ReadonlySet<RunnerName> = new Set(['jest', 'vitest', 'bun', 'react-scripts'] as const);
const EACH_MODULES: ReadonlySet<string> = new Set(['vitest', '@jest/globals', 'bun:test']);

/** Whether the file's runner has `it.each`, which fills `%s` with the first value of a row, and `it.todo`. */
export function hasEachAndTodo({ file, runners }: FileContext): boolean {
  const imported = [...file.imports.values()].some(({ specifier }) => EACH_MODULES.has(specifier));
  return imported || (runners.length > 0 && runners.every(({ runner }) => WITH_EACH.has(runner)));
}

const PENDING_WITHOUT_BODY: ReadonlySet<RunnerName> = new Set(['mocha', 'jasmine', 'karma'] as const);

/** Whether a spec without a body is one that is still to be written. */
export function isPendingWithoutBody({ file, runners }: FileContext): boolean {
  const imported = [...file.imports.values()].some(({ specifier }) => specifier === 'mocha');
  return imported || (runners.length > 0 && runners.every(({ runner }) => PENDING_WITHOUT_BODY.has(runner)));
}
