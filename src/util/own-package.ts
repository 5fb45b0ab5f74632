import { createRequire } from 'node:module';
import { dirname } from 'node:path';

// By its own name: how deep a module lies differs once it is bundled.
const MANIFEST = 'wexlet/package.json';
const require = createRequire(import.meta.url);

/** The absolute folder of this package, as the system writes it. */
export const ownFolder = (): string => dirname(require.resolve(MANIFEST));

/** The version of this package. */
export const ownVersion = (): string => (require(MANIFEST) as { version: string }).version;
