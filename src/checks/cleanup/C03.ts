import { majorOf } from '../../environment/versions.js';
import type { Mend } from '../../mends/edit.js';
import type { Block } from '../../model/specs/blocks.js';
import type { Render, Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type Evidence, type FileCheck, type FileContext, type Found } from '../check.js';
import { hookName, inEachHook } from '../hook-edits.js';
import { quoted } from '../order.js';
import { staysRendered } from '../teardown.js';
import { leftBy, type Left } from './ending.js';
import { leftLasting, sufferer, type LeftLasting } from './outliving.js';

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
  trouble: "it('shows the lid', () => {\n  mount(Lid, { attachTo: document.body });\n  …\n});",
  mended: 'enableAutoUnmount(afterEach);',
  run: (context) => [...leftNodes(context), ...leftRenders(context)],
};

const PAGE = new Set(['page'] as const);

function leftNodes(context: FileContext): Found[] {
  return leftLasting(context, PAGE).flatMap((left) => {
    const later = sufferer(left, context);
    if (left.ending.is !== 'never' || !later || isContainer(left, context)) return [];
    const { step, block } = left;
    return [
      {
        place: inFile(context, step.place),
        block,
        certainty: step.maybe || context.file.unknownEffects ? 'likely' : 'sure',
        message: message(nodeName(step, context), quoted(later)),
        advice,
        evidence: [...viaHelper(step, context), runsLater(later, context)],
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
  const group = block.parent;
  if (placesEarly || !group) return undefined;
  const edits = inEachHook(context, group, 'after-each', [
    `document.body.innerHTML = ${context.style.quote.repeat(2)}${context.style.semicolon}`,
  ]);
  return edits && { summary: 'Empty the page after each spec', safe: true, edits };
}

type RenderLeft = Left & { step: StepOf<'render'> };

// One finding a file: nothing takes renders down, so what is true of one is true of all.
function leftRenders(context: FileContext): Found[] {
  const { file } = context;
  if (
    [file.root, ...file.blocks].some(({ steps }) =>
      steps.some((step) => step.kind === 'unmount' && step.automatic),
    )
  )
    return [];
  if (context.setup?.steps.some(({ kind }) => kind === 'unmount' || kind === 'unknown-call')) return [];
  const left = leftRendersOf(context).filter(({ ending }) => ending.is === 'never');
  const [first] = left;
  if (!first) return [];
  const { render } = first.step;
  const component = context.links.component(render);
  const opens = component?.opens;
  return [
    {
      place: inFile(context, first.step.place),
      block: first.block,
      certainty: isInPage(render) && !first.step.maybe && context.setup ? 'sure' : 'likely',
      message: isInPage(render)
        ? messageRender(render.name, quoted(first.later))
        : messageOpens(render.name, component?.name ?? 'it', quoted(first.later)),
      advice: adviceRender,
      evidence: [
        ...viaHelper(first.step, context),
        ...(!isInPage(render) && component && opens
          ? [{ file: component.file, ...opens, note: 'goes on from here' }]
          : []),
        runsLater(first.later, context),
        ...left.slice(1).map(({ step }) => ({ ...truePlace(context, step), note: 'rendered and left, too' })),
      ],
      mend: unmountedByItself(context),
    },
  ];
}

/** Renders that matter once their spec is over, and that nothing surely takes down. */
export function leftRendersOf(context: FileContext): RenderLeft[] {
  const left = leftBy(context, (step) =>
    step.kind === 'render' && staysRendered(step.render, context) && matters(step, context)
      ? (other, byHook) => unmounts(other, step, byHook)
      : undefined,
  );
  return left.filter((each): each is RenderLeft => each.step.kind === 'render');
}

// Libraries that clean up by themselves, where they can, render into the page.
const isInPage = ({ attached, teardown }: Render): boolean => attached || teardown === 'each-spec-if-global';

const matters = ({ render }: StepOf<'render'>, context: FileContext): boolean =>
  isInPage(render) || (!render.shallow && context.links.component(render)?.opens !== undefined);

const unmounts = (step: Step, { render }: StepOf<'render'>, byHook: boolean): boolean =>
  step.kind === 'unmount' && (byHook || step.render === undefined || step.render === render);

const viaHelper = (step: Step, context: FileContext): Evidence[] =>
  step.via ? [{ ...truePlace(context, step), note: 'done in this helper' }] : [];

const runsLater = (later: Block, context: FileContext): Evidence => ({
  ...inFile(context, later.place),
  note: `${quoted(later)} runs later`,
});

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
  const start = text.lastIndexOf('\n', first.place.start - 1) + 1;
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
