/** A package that adds matchers to `expect`. */
export interface MatcherExtension {
  /** Modules that register them by being loaded, or that hand them out for `expect.extend`. */
  modules: readonly string[];
  /** What to write in a set-up file, by runner; the first entry for all others. */
  load: Readonly<Record<string, string>>;
  matchers: ReadonlySet<string>;
}

const names = (list: string): ReadonlySet<string> => new Set(list.split(' '));

/** Extensions whose matchers no runner has by itself. A name that a runner has as well is left out. */
export const MATCHER_EXTENSIONS: readonly MatcherExtension[] = [
  {
    // @testing-library/jest-dom 5 and 6: types/matchers.d.ts, and the entries of its manifest's `exports`.
    modules: ['@testing-library/jest-dom'],
    load: {
      other: '@testing-library/jest-dom',
      vitest: '@testing-library/jest-dom/vitest',
    },
    matchers: names(
      'toAppearAfter toAppearBefore toBeChecked toBeDisabled toBeEmptyDOMElement toBeEnabled toBeInTheDOM toBeInTheDocument toBeInvalid toBePartiallyChecked toBePartiallyPressed toBePressed toBeRequired toBeValid toBeVisible toContainElement toContainHTML toHaveAccessibleDescription toHaveAccessibleErrorMessage toHaveAccessibleName toHaveAttribute toHaveClass toHaveDescription toHaveDisplayValue toHaveErrorMessage toHaveFocus toHaveFormValues toHaveRole toHaveSelection toHaveStyle toHaveTextContent toHaveValue',
    ),
  },
  {
    // jest-axe 7 to 10, vitest-axe 0.1: index.d.ts.
    modules: ['jest-axe', 'vitest-axe'],
    load: { other: 'jest-axe', vitest: 'vitest-axe' },
    matchers: names('toHaveNoViolations'),
  },
];

/** The extension that has a matcher. */
export const extensionOf = (matcher: string): MatcherExtension | undefined =>
  MATCHER_EXTENSIONS.find(({ matchers }) => matchers.has(matcher));

/** Whether a module belongs to an extension, its inner paths included. */
export const belongsTo = ({ modules }: MatcherExtension, specifier: string): boolean =>
  modules.some((name) => specifier === name || specifier.startsWith(`${name}/`));

/** Whether a module belongs to any extension. */
export const isMatcherExtension = (specifier: string): boolean =>
  MATCHER_EXTENSIONS.some((each) => belongsTo(each, specifier));
