import type { Dialect, Meaning } from './meaning.js';
import { angular } from './angular.js';
import { assertions } from './assertions.js';
import { runners } from './runners.js';
import { USER_ACTIONS, userCentred } from './user-centred.js';
import { wrappers } from './wrappers.js';

/** Every table of names. A new library is a new table in one of the lists. */
const DIALECTS: readonly Dialect[] = [...runners, ...assertions, ...userCentred, ...wrappers, ...angular];

const byModule = new Map(
  DIALECTS.flatMap((dialect) => dialect.modules.map((name) => [name, dialect] as const)),
);

const globals = new Map<string, Meaning>(
  // The first table that names a global wins, so the later ones go in first.
  DIALECTS.toReversed().flatMap(({ globals: names, exports }) =>
    Object.entries(exports).filter(([name]) => names === 'all' || names?.includes(name)),
  ),
);

/** The dialect of a module, by the name it is imported by. */
export const dialectOf = (module: string): Dialect | undefined => byModule.get(module);

/** What an export of a module means; undefined where no table names it. */
export function meaningOf(module: string, name: string): Meaning | undefined {
  const dialect = byModule.get(module);
  if (!dialect || !Object.hasOwn(dialect.exports, name)) return dialect?.exports['*'];
  return dialect.exports[name];
}

/** What a name means where nothing in the file declares it and a runner makes it global. */
export const globalMeaning = (name: string): Meaning | undefined => globals.get(name);

/** Whether a module belongs to a library that renders or queries as a user would. */
export const isUserCentred = (module: string): boolean => byModule.get(module)?.userCentred ?? false;

/** Whether a module belongs to a library of user actions. */
export const isUserActions = (module: string): boolean => byModule.get(module)?.name === USER_ACTIONS;
