import type { StepOf } from './steps.js';
import { textOfValue } from './values.js';

/** The event that an act is about, by the method's name or by its first argument. */
export const eventOf = ({ name, args }: StepOf<'act'>): string =>
  name === 'trigger' || name === 'simulate' || name === 'triggerEventHandler' || name === 'dispatchEvent'
    ? (textOfValue(args[0])?.split('.')[0] ?? name)
    : name;
