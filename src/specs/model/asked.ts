import type { Reach } from './steps.js';
import { textOfValue, type Value } from './values.js';

/** The name that a query asks for among its options, a text or a pattern: `getByRole('button', { name: /fire/i })`. */
export const nameOption = ({ args: [, options] }: Pick<Reach, 'args'>): Value | undefined =>
  options?.is === 'object' ? options.entries.get('name') : undefined;

/** The same, where it is a text: `getByRole('button', { name: 'Fire' })`. */
export const nameAsked = (reach: Pick<Reach, 'args'>): string | undefined => textOfValue(nameOption(reach));
