import { agreed, type RunnerFacts } from '../../environment/facts/environment.js';
import type { Finding, Place, Span } from '../../finding.js';
import { blocksAround } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import { inFile, type FileContext } from './context.js';
import { runningBlocks, runningSpecs } from './order.js';
import { shownNeeds } from './shown-at-once.js';

/** What takes answers away that were given as a file was loaded, with its words. */
export interface Lost {
  by: string;
  when: string;
  evidence: Finding['evidence'];
}

/** What takes away the answers that stand-ins are given as a file is loaded; undefined where nothing surely does. */
export function lostIn(context: FileContext): Lost | undefined {
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

/** An answer that a component which is shown asks for at once; the place is where it is given. */
export interface Needed extends Span {
  name: string;
  component: string;
  at: Place;
}

/** The answers of a file's module stand-ins that are lost by a reset, told by nobody again, and asked for at once. */
export function neededAtOnce(context: FileContext): Needed[] {
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
  const needs = shownNeeds(context, (calls) =>
    calls.flatMap(({ path, at }) => {
      const from = project.summary(at.file)?.imports.get(path);
      const told = from && given.get(project.exportKey(at.file, from));
      return told ? [{ what: told, at }] : [];
    }),
  );
  return [
    ...new Map(needs.map(({ what, at, component }) => [what.start, { ...what, at, component }])).values(),
  ];
}
