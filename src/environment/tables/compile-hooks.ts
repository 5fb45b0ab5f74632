// What mocha is told to load before the specs, by what it does to the modules that are loaded after it.

/** Hooks that compile by Babel's settings. */
export const isBabelHook = (specifier: string): boolean =>
  /^(?:@babel\/register|babel-register|babel-core\/register)(?:\/|$)/.test(specifier);

/** Hooks that compile TypeScript and JSX by themselves, or by the compiler's settings. */
export const isCompileHook = (specifier: string): boolean =>
  /^(?:tsx|ts-node|esbuild-register|@swc\/register|@swc-node\/register|@esbuild-kit\/.*|sucrase|jiti|esbuild-runner|@babel\/node)(?:\/|$)/.test(
    specifier,
  );

/** Hooks that take styles, or assets, for nothing. */
export const isStyleHook = (specifier: string): boolean =>
  /^(?:ignore-styles|css-modules-require-hook|asset-require-hook|css-modules-register|ignore-css)(?:\/|$)/.test(
    specifier,
  );

/** Hooks that resolve names by the compiler’s `paths`: tsx 3 and 4, @swc-node/register 1, tsconfig-paths 3 and 4. */
export const isPathsHook = (specifier: string): boolean =>
  /^(?:tsx|@esbuild-kit\/.+|@swc-node\/register|tsconfig-paths)(?:\/|$)/.test(specifier);

/** Hooks that may send any name anywhere, by settings of their own. */
export const maySendNames = (specifier: string): boolean =>
  /alias|^(?:@babel\/register|babel-|@swc\/register|jiti|esbuild-)/.test(specifier);
