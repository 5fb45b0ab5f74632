import { declares, manifestsOf, type Environment } from './facts/environment.js';

// Packages that a declared one brings along on purpose: its own dependencies that it hands on.
const BRINGERS: readonly (readonly [brought: RegExp, by: RegExp])[] = [
  [
    /^@jest\/globals$|^expect$|^jest-mock$|^babel-jest$|^jest-(?:circus|jasmine2|runner|environment-node)$/,
    /^(?:jest|jest-cli|react-scripts)$/,
  ],
  [/^@testing-library\/dom$/, /^@testing-library\/(?:react|vue|angular|preact|svelte)$/],
  [/^(?:vite|chai|@vitest\/(?!coverage-|browser|ui$|web-worker$).*)$/, /^vitest$/],
  [/^jasmine(?:-core)?$/, /^(?:jasmine|karma-jasmine)$/],
  [
    /^@vue\/(?:compiler-(?:core|dom|sfc|ssr)|reactivity|runtime-(?:core|dom)|server-renderer|shared)$/,
    /^vue$/,
  ],
  [/^react-dom$/, /^(?:next|gatsby)$/],
  [/^rxjs$/, /^@angular\/core$/],
];

/** Whether a declared package brings another one along on purpose. */
export const isBrought = (name: string, environment: Environment): boolean =>
  BRINGERS.some(
    ([brought, by]) =>
      brought.test(name) &&
      manifestsOf(environment).some(({ dependencies }) =>
        [...dependencies.keys()].some((each) => by.test(each)),
      ),
  );

/** Whether a package is surely not there: not installed where others are, or declared by nobody where all is in sight. */
export const isMissing = (environment: Environment, name: string): boolean =>
  environment.hasInstalls
    ? environment.installedAt(name) === undefined
    : environment.isWhole && !declares(environment, name) && !isBrought(name, environment);
