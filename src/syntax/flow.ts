import { createRequire } from 'node:module';

/** Takes the types of Flow out of a script, and leaves spaces of the same length (flow-remove-types 2). Throws on broken syntax. */
type RemoveTypes = (source: string, options: { all: boolean; pretty: boolean }) => { toString(): string };

let removeTypes: RemoveTypes | undefined;

// The word that tells Flow, and whatever compiles it, that a script has its types.
const PRAGMA = /(?:^|\s)@flow\b/;

/** A script without the types of Flow, each place where it was; undefined where it is none, or can't be read as one. */
export function withoutFlow(text: string): string | undefined {
  if (!PRAGMA.test(text)) return undefined;
  // Few projects have any: its parser is only loaded for those.
  removeTypes ??= createRequire(import.meta.url)('flow-remove-types') as RemoveTypes;
  try {
    const plain = removeTypes(text, { all: true, pretty: false }).toString();
    return plain.length === text.length ? plain : undefined;
  } catch {
    return undefined;
  }
}
