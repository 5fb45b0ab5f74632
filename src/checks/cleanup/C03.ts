import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Mend, Evidence, Finding } from '../../finding.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { staysRendered } from '../questions/teardown.js';
import { traces } from '../questions/ending.js';
import { saysUndone } from '../questions/unread-calls.js';
import { leftLasting, sufferer, type LeftLasting } from '../questions/outliving.js';
import { isInPage, leftRenders } from '../questions/left-renders.js';
import { unmountedByItself } from '../../writing/unmount-switch.js';

const message = (what: string, later: string): string =>
  `${what} is put into the page and never taken out: ${later} finds it there.`;
const messageRender = (name: string, later: string): string =>
  `What ${name} renders is put into the page and never taken out: ${later} finds it there.`;
const messageOpens = (name: string, component: string, later: string): string =>
  `What ${name} renders is never unmounted, and ${component} goes on listening or counting while ${later} runs.`;
const advice = 'Take it out in an after-each hook.';
const adviceRender = 'Unmount in an after-each hook, or let the library unmount by itself after each spec.';

/** Something that stays in the page, or goes on working, once its spec is over. */
export const C03: FileCheck = {
  code: 'C03',
  family: 'cleanup',
  scope: 'file',
  title: 'Rendered into the page and left there',
  level: 'risk',
  why: 'Queries on the page find what an earlier spec left, and components that nobody took down still react.',
  certain:
    'Sure where it always runs and goes into the page itself, and every hook and set-up file around it can be read.',
  trouble: "it('shows the lid', () => {\n  mount(Lid, { attachTo: document.body });\n  …\n});",
  mended: 'enableAutoUnmount(afterEach);',
  run: (context) => [...nodesLeft(context), ...rendersLeft(context)],
};

const PAGE = new Set(['page'] as const);

function nodesLeft(context: FileContext): Finding[] {
  return leftLasting(context, PAGE).flatMap((left) => {
    const later = sufferer(left, context);
    if (left.ending.is !== 'never' || !later || isContainer(left, context)) return [];
    const { step, block, certainty } = left;
    return [
      {
        place: inFile(context, step.place),
        within: titlesOf(block),
        certainty,
        message: message(nodeName(step, context), quotedTitle(later)),
        advice,
        evidence: traces({ ...left, later }, 'done in this helper', context),
        mend: emptiedPage(block, context),
      },
    ];
  });
}

// What stands between the parentheses: the node, or the markup.
function nodeName({ place, lasting, via }: StepOf<'lasting'>, { source, project }: FileContext): string {
  const at = via ?? { ...place, file: source.path };
  const text = project.source(at.file)?.text.slice(at.start, at.end) ?? lasting.text;
  const given = text
    .slice(lasting.text.length)
    .replace(/^\s*\(|\)$|^\s*\+?=\s*/g, '')
    .trim();
  return given.length > 0 && given.length < 40 && !given.includes('\n') ? given : 'A node';
}

// A node that only holds a render which the library takes out, with the node.
function isContainer({ step, block }: LeftLasting, context: FileContext): boolean {
  return block.steps.some(
    (other) =>
      other.kind === 'render' &&
      other.render.attached &&
      !staysRendered(other.render, context) &&
      block.steps.indexOf(other) >= block.steps.indexOf(step) - 1,
  );
}

function emptiedPage(block: Block, context: FileContext): Mend | undefined {
  const placesEarly = [context.file.root, ...context.file.blocks].some(
    (each) =>
      (each.kind === 'file' || each.kind === 'group' || each.hook === 'before-all') &&
      each.steps.some((step) => step.kind === 'lasting' && step.lasting.what === 'page'),
  );
  const emptied = `document.body.innerHTML = ${context.style.quote.repeat(2)}`;
  return placesEarly ? undefined : afterEachMend(context, block, 'Empty the page after each spec', [emptied]);
}

// One finding a file: nothing takes renders down, so what is true of one is true of all.
function rendersLeft(context: FileContext): Finding[] {
  const { file } = context;
  if (
    [file.root, ...file.blocks].some(({ steps }) =>
      steps.some((step) => step.kind === 'unmount' && step.automatic),
    )
  )
    return [];
  if (context.setup?.steps.some((step) => step.kind === 'unmount' || saysUndone(step))) return [];
  const left = leftRenders(context).filter(({ ending }) => ending.is === 'never');
  const [first] = left;
  if (!first) return [];
  const { render } = first.step;
  const component = context.rendering.component(render);
  const goesOn: Evidence[] =
    !isInPage(render) && component?.opens
      ? [{ file: component.file, ...component.opens, note: 'goes on from here' }]
      : [];
  return [
    {
      place: inFile(context, first.step.place),
      within: titlesOf(first.block),
      certainty: isInPage(render) ? first.certainty : 'likely',
      message: isInPage(render)
        ? messageRender(render.name, quotedTitle(first.later))
        : messageOpens(render.name, component?.name ?? 'it', quotedTitle(first.later)),
      advice: adviceRender,
      evidence: [
        ...goesOn,
        ...traces(first, 'done in this helper', context),
        ...left.slice(1).map(({ step }) => ({ ...truePlace(context, step), note: 'rendered and left, too' })),
      ],
      mend: unmountedByItself(context),
    },
  ];
}
