import type { Evidence } from '../../finding.js';
import type { Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { truePlace, type FileContext } from './context.js';
import { eachHooksAround } from './order.js';

const UNDOING =
  /reset|restore|clear|clean|dispose|destroy|tear|tidy|wipe|undo|revert|remove|unmount|unmock|unstub/i;

/** Whether a step is a call that can't be read and whose name says that it undoes something: taken at its word. */
export const saysUndone = (step: Step): boolean => step.kind === 'unknown-call' && UNDOING.test(step.name);

/**
 * The calls around some specs, in hooks and set-up files, that can't be read: each may undo what a spec leaves, so
 * nothing that rests on “nobody undoes it” is sure. One evidence a name; those of set-up files stand at their file.
 */
export function unreadAround(specs: readonly Block[], context: FileContext): Evidence[] {
  const isUnread = (step: Step): step is StepOf<'unknown-call'> => step.kind === 'unknown-call';
  const inHooks = specs
    .flatMap((spec) => eachHooksAround(spec).flatMap(({ steps }) => steps.filter(isUnread)))
    .map((step) => ({ name: step.name, place: truePlace(context, step) }));
  const inSetup = context.setup?.unread ?? [];
  const seen = new Map([...inHooks, ...inSetup].map((each) => [each.name, each]));
  return [...seen.values()].map(({ name, place }) => ({
    ...place,
    note: `${name} can’t be read: it may undo this`,
  }));
}
