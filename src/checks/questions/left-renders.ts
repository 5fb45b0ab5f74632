import type { Render, Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { staysRendered } from './teardown.js';
import { leftBy, type Left } from './ending.js';

/** Renders that matter once their spec is over, and that nothing surely takes down. */
export const leftRenders = (context: FileContext): Left<'render'>[] =>
  leftBy(context, 'render', (step) =>
    staysRendered(step.render, context) && matters(step, context)
      ? (other, byHook) => unmounts(other, step, byHook)
      : undefined,
  );

/** Whether a render is put into the page: libraries that clean up by themselves, where they can, do so. */
export const isInPage = ({ attached, teardown }: Render): boolean =>
  attached || teardown === 'each-spec-if-global';

const matters = ({ render }: StepOf<'render'>, context: FileContext): boolean =>
  isInPage(render) || (!render.shallow && context.rendering.component(render)?.opens !== undefined);

// What it was put into may be taken out of the page as well.
const unmounts = (step: Step, { render }: StepOf<'render'>, byHook: boolean): boolean =>
  (step.kind === 'unmount' && (byHook || step.render === undefined || step.render === render)) ||
  (byHook &&
    render.attached &&
    step.kind === 'lasting' &&
    step.lasting.what === 'page' &&
    step.lasting.does === 'close');
