import { majorOf } from '../../environment/versions.js';
import type { Mend } from '../../finding.js';
import { lineStart } from '../../writing/edits/style.js';
import type { Render, Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { hookName } from '../../writing/hook-edits.js';
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
  isInPage(render) || (!render.shallow && context.links.component(render)?.opens !== undefined);

const unmounts = (step: Step, { render }: StepOf<'render'>, byHook: boolean): boolean =>
  step.kind === 'unmount' && (byHook || step.render === undefined || step.render === render);

/** The library's own switch, where its version is known to have one. */
export function unmountedByItself(context: FileContext): Mend | undefined {
  const { file, style } = context;
  const major = majorOf(context.versionOf('@vue/test-utils'));
  const name = major === undefined ? undefined : major < 2 ? 'enableAutoDestroy' : 'enableAutoUnmount';
  const imports = [...file.imports].filter(
    ([, each]) => each.specifier === '@vue/test-utils' && !each.typeOnly,
  );
  const last = imports
    .map(([, each]) => each)
    .findLast((each) => each.name !== 'default' && each.name !== '*');
  const hook = hookName(file, 'after-each');
  const first = file.root.children[0];
  if (!name || !last || !hook || !first) return undefined;
  const { text } = context.source;
  const start = lineStart(text, first.place.start);
  if (text.slice(start, first.place.start).trim() !== '') return undefined;
  return {
    summary: 'Unmount after each spec',
    safe: true,
    edits: [
      { file: file.path, start: last.end, end: last.end, text: `, ${name}` },
      ...hook.edits,
      {
        file: file.path,
        start,
        end: start,
        text: `${name}(${hook.name})${style.semicolon}${style.newline}${style.newline}`,
      },
    ],
  };
}
