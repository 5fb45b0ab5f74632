/** A package that adds matchers to `expect`. */
export interface MatcherExtension {
  /** Modules that register them by being loaded, or that hand them out for `expect.extend`. */
  modules: readonly string[];
  /** Modules that register nothing by being loaded, with the exports that can be handed to `expect` or to `chai.use`. */
  handsOut?: Readonly<Record<string, readonly string[]>>;
  /** The modules of these that add to an `expect` that is global, and throw where there is none. */
  needsGlobal?: readonly string[];
  /** By runner: the module that adds to what that runner exports. */
  entry?: Readonly<Record<string, string>>;
  /** The module to load in a set-up file, by runner, where loading it registers the matchers; it has their types, too. */
  load?: Readonly<Record<string, string>>;
  /** What to write in a set-up file for each of `modules`, where loading one does not register. */
  statements?: Readonly<Record<string, string>>;
  matchers: ReadonlySet<string>;
}

const names = (list: string): ReadonlySet<string> => new Set(list.split(' '));

const WHOLE = ['default', '*'];

/** Extensions whose matchers no runner has by itself. A name that a runner has as well is left out. */
export const MATCHER_EXTENSIONS: readonly MatcherExtension[] = [
  {
    // @testing-library/jest-dom 6: types/matchers.d.ts, and the files of the package.
    modules: ['@testing-library/jest-dom'],
    handsOut: { '@testing-library/jest-dom/matchers': WHOLE },
    needsGlobal: ['@testing-library/jest-dom', '@testing-library/jest-dom/extend-expect'],
    entry: {
      vitest: '@testing-library/jest-dom/vitest',
      jest: '@testing-library/jest-dom/jest-globals',
    },
    load: {
      other: '@testing-library/jest-dom',
      vitest: '@testing-library/jest-dom/vitest',
    },
    matchers: names(
      'toAppearAfter toAppearBefore toBeChecked toBeDisabled toBeEmptyDOMElement toBeEnabled toBeInTheDOM toBeInTheDocument toBeInvalid toBePartiallyChecked toBePartiallyPressed toBePressed toBeRequired toBeValid toBeVisible toContainElement toContainHTML toHaveAccessibleDescription toHaveAccessibleErrorMessage toHaveAccessibleName toHaveAttribute toHaveClass toHaveDescription toHaveDisplayValue toHaveErrorMessage toHaveFocus toHaveFormValues toHaveRole toHaveSelection toHaveStyle toHaveTextContent toHaveValue',
    ),
  },
  {
    // jest-axe 10: index.js and extend-expect.js. vitest-axe 0.1: matchers.js; its extend-expect.js is empty.
    modules: ['jest-axe', 'vitest-axe'],
    handsOut: {
      'jest-axe': [...WHOLE, 'toHaveNoViolations'],
      'vitest-axe/matchers': [...WHOLE, 'toHaveNoViolations'],
    },
    statements: {
      'jest-axe': "import 'jest-axe/extend-expect';",
      'vitest-axe': "import * as matchers from 'vitest-axe/matchers'; expect.extend(matchers);",
    },
    matchers: names('toHaveNoViolations'),
  },
  {
    // sinon-chai 3 and 4: lib/sinon-chai.js; properties and methods of chai's assertions.
    modules: ['sinon-chai'],
    handsOut: { 'sinon-chai': WHOLE },
    statements: { 'sinon-chai': 'chai.use(sinonChai);' },
    matchers: names(
      'calledOnce calledTwice calledThrice calledBefore calledAfter calledImmediatelyBefore calledImmediatelyAfter calledOn calledOnceWith calledOnceWithExactly calledWith calledWithExactly calledWithMatch',
    ),
  },
  {
    // chai-dom 1.12: chai-dom.js.
    modules: ['chai-dom'],
    handsOut: { 'chai-dom': WHOLE },
    statements: { 'chai-dom': 'chai.use(chaiDom);' },
    matchers: names(
      'attr attribute class descendant descendants displayed html rendered tagName text trimmed',
    ),
  },
  {
    // chai-as-promised 7 and 8: lib/chai-as-promised.js.
    modules: ['chai-as-promised'],
    handsOut: { 'chai-as-promised': WHOLE },
    statements: { 'chai-as-promised': 'chai.use(chaiAsPromised);' },
    matchers: names('become eventually fulfilled rejected rejectedWith'),
  },
];

/** The extension that has a matcher. */
export const extensionOf = (matcher: string): MatcherExtension | undefined =>
  MATCHER_EXTENSIONS.find(({ matchers }) => matchers.has(matcher));

/** Whether a module belongs to an extension, its inner paths included. */
export const belongsTo = ({ modules }: MatcherExtension, specifier: string): boolean =>
  modules.some((name) => specifier === name || specifier.startsWith(`${name}/`));

/** Whether loading a module registers the matchers of an extension. */
export const registers = (extension: MatcherExtension, specifier: string): boolean =>
  belongsTo(extension, specifier) && !Object.hasOwn(extension.handsOut ?? {}, specifier);

/** The extension whose matchers an import can be handed on from. */
export const handedOut = (specifier: string, name: string): MatcherExtension | undefined =>
  MATCHER_EXTENSIONS.find(
    ({ handsOut = {} }) => Object.hasOwn(handsOut, specifier) && handsOut[specifier]?.includes(name),
  );

/** Whether a module belongs to any extension. */
export const isMatcherExtension = (specifier: string): boolean =>
  MATCHER_EXTENSIONS.some((each) => belongsTo(each, specifier));
