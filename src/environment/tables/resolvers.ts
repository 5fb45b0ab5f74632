/** What a package that resolves the runner's imports does, beside what the runner does itself. */
interface Resolver {
  /** It goes by the compiler's `paths` as well. */
  readsPaths?: boolean;
  /** The imports that it replaces: a pattern, and the package that stands for them. */
  replaces?: { pattern: string; to: string };
}

// plugins/resolver.js: styles are an object of names, and what the runner does not find the compiler looks for.
const NX: Resolver = {
  readsPaths: true,
  replaces: { pattern: '\\.(?:css|scss|sass|less)$', to: 'identity-obj-proxy' },
};

const RESOLVERS: ReadonlyMap<string, Resolver> = new Map<string, Resolver>([
  ['@nx/jest/plugins/resolver', NX],
  ['@nrwl/jest/plugins/resolver', NX],
  // Both take `./lid.js` for the file in TypeScript beside it.
  ['ts-jest-resolver', {}],
  ['jest-ts-webcompat-resolver', {}],
]);

/** What a resolver of a package does; undefined where no table knows it. */
export const resolverBy = (name: string): Resolver | undefined => RESOLVERS.get(name);
