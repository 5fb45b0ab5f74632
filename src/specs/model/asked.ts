import type { Reach } from './steps.js';
import { textOfValue } from './values.js';

/** The name that a query asks for among its options, where that is a text: `getByRole('button', { name: 'Fire' })`. */
export function nameAsked({ args: [, options] }: Pick<Reach, 'args'>): string | undefined {
  return options?.is === 'object' ? textOfValue(options.entries.get('name')) : undefined;
}
