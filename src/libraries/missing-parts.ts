/** Parts of the platform that a document may lack, by how they are reached, and the documents that lack them. */
interface MissingPart {
  /** The last name of the path that is called or constructed. */
  name: string;
  /** What it must be reached by; undefined: the global object. */
  of?: string | RegExp;
  /** Only where the runner leaves its own platform out of the document. */
  inside?: 'jest';
}

// jsdom 16 to 31, lib/; what jest-environment-jsdom 27 to 30 does not hand on of Node.
const PARTS: readonly MissingPart[] = [
  ...['matchMedia', 'ResizeObserver', 'IntersectionObserver', 'requestIdleCallback'].map((name) => ({
    name,
  })),
  // By what holds an element: `end.current`.
  { name: 'scrollIntoView', of: /\.(?:current|value)$/ },
  ...['readText', 'writeText'].map((name) => ({ name, of: 'navigator.clipboard' })),
  { name: 'load', of: 'document.fonts' },
  { name: 'getCurrentPosition', of: 'navigator.geolocation' },
  ...['fetch', 'structuredClone', 'BroadcastChannel', 'MessageChannel', 'TextEncoder', 'TextDecoder'].map(
    (name) => ({ name, inside: 'jest' as const }),
  ),
  ...['createObjectURL', 'revokeObjectURL'].map((name) => ({ name, of: 'URL', inside: 'jest' as const })),
];

const GLOBAL = /^(?:window|globalThis|global|self)\./;

function partOf(path: string): MissingPart | undefined {
  const plain = path.replace(GLOBAL, '');
  const dot = plain.lastIndexOf('.');
  const [of, name] = dot < 0 ? [undefined, plain] : [plain.slice(0, dot), plain.slice(dot + 1)];
  return PARTS.find(
    (part) => part.name === name && (part.of instanceof RegExp ? part.of.test(of ?? '') : part.of === of),
  );
}

/** The name of a part that a call's path reaches and jsdom lacks, under a runner; undefined where it has it. */
export function missingPart(path: string, isJest: boolean): string | undefined {
  const part = partOf(path);
  return part && (part.inside === undefined || isJest) ? part.name : undefined;
}

/** Whether a path may reach such a part under some runner. */
export const mayBeMissing = (path: string): boolean => partOf(path) !== undefined;
