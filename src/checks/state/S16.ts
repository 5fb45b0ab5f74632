import { agreed, type RunnerFacts } from '../../environment/facts/environment.js';
import type { Finding, Span } from '../../finding.js';
import { blocksAround } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks, runningSpecs } from '../questions/order.js';
import { calledAtOnce, shownNeeds } from '../questions/shown-at-once.js';

const message = (name: string, by: string, when: string, component: string): string =>
  `${by} this answer of ${name} away ${when}: ${component} calls it as soon as it is shown, and gets nothing.`;
const advice = 'Give the answer in a before-each hook, or write a plain function in its place.';

/** An answer of a module's stand-in that is given once, and taken away before a spec asks for it. */
export const S16: FileCheck = {
  code: 'S16',
  family: 'state',
  scope: 'file',
  title: 'Answer taken away before it is asked for',
  level: 'blocker',
  why: 'The stand-in is there and gives nothing: the component reads a part of that, and throws.',
  certain: 'Likely at most: that the component needs what the call gives is not certain.',
  trouble:
    "vi.mock('./use-kilns', () => ({ useKilns: vi.fn().mockReturnValue({ kilns: [] }) }));\nafterEach(() => vi.resetAllMocks());",
  mended: 'beforeEach(() => vi.mocked(useKilns).mockReturnValue({ kilns: [] }));',
  run(context) {
    const { replacements } = context.file;
    if (replacements.every(({ told }) => told.size === 0)) return [];
    const lost = lostIn(context);
    return lost ? needed(context).map((each) => found(each, lost, context)) : [];
  },
};

interface Lost {
  by: string;
  when: string;
  evidence: Finding['evidence'];
}

// What takes answers away that were given as the file was loaded, with its words.
function lostIn(context: FileContext): Lost | undefined {
  const { runners, setup, file } = context;
  const [runner] = runners;
  if (agreed(runners, ({ resets }) => resets) === true)
    return {
      by:
        runner?.runner === 'react-scripts'
          ? 'resetMocks, which react-scripts sets, takes'
          : 'The settings take',
      when: 'before each spec',
      evidence: runner?.settings ? [{ ...runner.settings.at, note: 'the settings' }] : [],
    };
  if (setup?.steps.some(resets)) return { by: 'The set-up takes', when: 'between specs', evidence: [] };
  const specs = runningSpecs(file);
  const hook = runningBlocks(file).find(
    ({ hook, parent, steps }) =>
      (hook === 'before-each' || (hook === 'after-each' && specs.length > 1)) &&
      steps.some(resets) &&
      specs.every((spec) => parent !== undefined && blocksAround(spec).includes(parent)),
  );
  const step = hook?.steps.find(resets);
  if (!hook || !step) return undefined;
  return {
    by: 'A hook takes',
    when: hook.hook === 'before-each' ? 'before each spec' : 'after the first spec',
    evidence: [{ ...inFile(context, step.place), note: 'here' }],
  };
}

const resets = (step: Step): boolean =>
  step.kind === 'restore' &&
  step.scope === 'all' &&
  step.what === 'reset' &&
  !step.maybe &&
  step.maker === 'runner';

// jest resets to nothing at all; vitest 3 and 4 to what a stand-in was made with.
const isLost = (runners: readonly RunnerFacts[], made: boolean): boolean =>
  runners.length > 0 &&
  runners.every(({ runner, major }) => runner !== 'vitest' || !made || (major !== undefined && major < 3));

interface Needed extends Span {
  name: string;
  component: string;
  at: { file: string } & Span;
}

function needed(context: FileContext): Needed[] {
  const { file, project, runners, rendering } = context;
  const toldAgain = rendering.answers.told;
  const given = new Map(
    file.replacements.flatMap(({ specifier, told }) =>
      [...told].flatMap(([name, { made, ...span }]) => {
        const key = project.exportKey(file.path, { specifier, name });
        return isLost(runners, made) && !toldAgain.has(key) ? [[key, { name, ...span }] as const] : [];
      }),
    ),
  );
  if (given.size === 0) return [];
  const needs = shownNeeds(context, (component) =>
    calledAtOnce(component, project).flatMap(({ path, at }) => {
      const from = project.summary(at.file)?.imports.get(path);
      const told = from && given.get(project.exportKey(at.file, from));
      return told ? [{ what: told, at }] : [];
    }),
  );
  return [
    ...new Map(needs.map(({ what, at, component }) => [what.start, { ...what, at, component }])).values(),
  ];
}

const found = (
  { name, component, at, start, end }: Needed,
  { by, when, evidence }: Lost,
  context: FileContext,
): Finding => ({
  place: inFile(context, { start, end }),
  certainty: 'likely',
  message: message(name, by, when, component),
  advice,
  evidence: [...(evidence ?? []), { ...at, note: 'asks for it under no condition' }],
});
