import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);

/** A package that is loaded when it is first asked for: `T` is what its CommonJS form gives. */
export const lazily =
  <T>(name: string): (() => T) =>
  () =>
    require(name) as T;
