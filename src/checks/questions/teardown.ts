import { isKnown } from './setup-effects.js';
import { agreed } from '../../environment/facts/environment.js';
import type { Render } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';

/** Whether a render surely stays until somebody takes it down: neither its library nor a set-up file does. */
export function staysRendered({ teardown }: Render, { runners, setup, file }: FileContext): boolean {
  if (teardown === 'nobody') return true;
  // Some libraries clean up only where they find an after-each that is global.
  if (teardown !== 'each-spec-if-global' || agreed(runners, ({ globals }) => globals) !== false) return false;
  const hooks = file.blocks.filter(({ hook }) => hook === 'after-each' || hook === 'before-each');
  const around = [...(setup?.steps ?? []), ...hooks.flatMap(({ steps }) => steps)];
  return isKnown(setup) && !around.some(({ kind }) => kind === 'unmount' || kind === 'unknown-call');
}
