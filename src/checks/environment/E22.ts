import { ASYNC_GROUP, CALLED_BACK, GLOBALS, MATCHERS, MODULES, EXPECT_FROM } from '../questions/facts.js';
import { wordedBy, type RunnerFacts } from '../../environment/facts/environment.js';
import { RUNNER_OF_MODULE } from '../../environment/tables/runner-words.js';
import type { Finding, Place } from '../../finding.js';
import { join } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { foreignGlobals, foreignGlobalsIn } from '../questions/lacking.js';
import { isKnown, type SetupEffects } from '../questions/setup-effects.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (name: string, runner: string, files: readonly unknown[]): string =>
  `${name} is used here${andMore(files)}, and ${runner} has nothing of that name.`;
const messageModule = (name: string, runner: string, files: readonly unknown[]): string =>
  `${name} is loaded here${andMore(files)}, and refuses to run under ${runner}.`;
const messageMatcher = (matcher: string, files: readonly unknown[]): string =>
  `${matcher} is asked of chai’s expect${andMore(files)}, which has no such matcher.`;
const messageCallback = (runner: string, files: readonly unknown[]): string =>
  `A callback is called here${andMore(files)} that ${runner} hands to no spec: what it hands over is no function.`;
const messageGroup = (runner: string, files: readonly unknown[]): string =>
  `A group is made by an async function here${andMore(files)}, and ${runner} waits for no group: it stops there.`;
const adviceGroup = 'Make the group at once, and wait in beforeAll.';
const adviceCallback = 'Return a promise, or wait in an async function.';
const advice = (instead: string | undefined): string =>
  instead ? `Here it is called ${instead}.` : 'Write it in the words of the runner that runs it.';
const adviceMatcher =
  'Write it in its own words, such as expect(onFire).to.have.been.calledOnce, or take the other expect.';

/** A function, module or matcher of a runner or library that is not the one which runs the file. */
export const E22: ProjectCheck = {
  code: 'E22',
  family: 'environment',
  scope: 'project',
  facts: [GLOBALS, MATCHERS, MODULES, EXPECT_FROM, CALLED_BACK, ASYNC_GROUP],
  title: 'Words of another runner',
  level: 'blocker',
  why: 'The file stops where it uses them: “jest is not defined”.',
  certain: 'Sure where one runner takes the file, and no set-up file defines the name.',
  trouble: 'const onFire = jest.fn(); // run by vitest',
  mended: "import { vi } from 'vitest';\n\nconst onFire = vi.fn();",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

interface Use {
  file: SpecFileFacts;
  place: Place;
  message: (files: readonly unknown[]) => string;
  advice: string;
}

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const byWord = new Map<string, Use[]>();
  const looked = new Set<SetupEffects>();
  for (const file of specFiles) {
    const [runner, ...others] = environment.runnersOf(file.path);
    if (!runner || others.length > 0 || !runner.collects.known) continue;
    for (const [word, use] of [
      ...globals(file, runner, context),
      ...modules(file, runner),
      ...matchers(file, runner),
      ...callbacks(file, runner),
      ...groups(file, runner),
    ]) {
      const uses = byWord.get(word) ?? [];
      if (!uses.some((each) => each.file === file)) uses.push(use);
      byWord.set(word, uses);
    }
    const setup = context.setupOf(file.path);
    if (!setup || !isKnown(setup) || looked.has(setup)) continue;
    looked.add(setup);
    for (const [word, use] of beside(file, runner, setup, environment.folder, context))
      byWord.set(word, [use]);
  }
  return [...byWord.values()].flatMap((uses): Finding[] => {
    const [first] = uses;
    if (!first) return [];
    return [
      {
        place: first.place,
        certainty: 'sure',
        message: first.message(uses),
        advice: first.advice,
      },
    ];
  });
}

const globals = (file: SpecFileFacts, runner: RunnerFacts, context: ProjectContext): [string, Use][] =>
  !isKnown(context.setupOf(file.path))
    ? []
    : foreignGlobals(file, runner, context).map(({ name, place, instead }) => [
        name,
        {
          file,
          place: inSpecFile(file, place),
          message: (files) => message(name, wordedBy(runner) ?? runner.runner, files),
          advice: advice(instead),
        },
      ]);

// jest takes the files of such folders for the packages of their names.
const STAND_INS = '__mocks__/';

// Set-up files, and stand-ins that the runner takes by themselves; by their paths.
function beside(
  file: SpecFileFacts,
  runner: RunnerFacts,
  setup: SetupEffects,
  folder: string,
  context: ProjectContext,
): [string, Use][] {
  const standIns =
    runner.runner === 'jest'
      ? context.sources.filter((path) => path.startsWith(join(folder, STAND_INS)))
      : [];
  return [...setup.files, ...standIns].flatMap((path) =>
    foreignGlobalsIn(path, runner, setup, context).map(({ name, place, instead }): [string, Use] => [
      `${path}\0${name}`,
      {
        file,
        place: { file: path, ...place },
        message: () => message(name, wordedBy(runner) ?? runner.runner, []),
        advice: advice(instead),
      },
    ]),
  );
}

const modules = (file: SpecFileFacts, facts: RunnerFacts): [string, Use][] =>
  file.get(MODULES).flatMap(({ specifier, start, end }): [string, Use][] => {
    const of = RUNNER_OF_MODULE.get(specifier);
    const runner = wordedBy(facts);
    if (!of || runner === undefined || of.includes(runner)) return [];
    return [
      [
        specifier,
        {
          file,
          place: inSpecFile(file, { start, end }),
          message: (files) => messageModule(specifier, runner, files),
          advice: advice(undefined),
        },
      ],
    ];
  });

// vitest 1 to 4 hands over the context of the spec.
function callbacks(file: SpecFileFacts, { runner }: RunnerFacts): [string, Use][] {
  const place = runner === 'vitest' ? file.get(CALLED_BACK) : undefined;
  if (!place) return [];
  const message = (files: readonly unknown[]): string => messageCallback(runner, files);
  return [['callback', { file, place: inSpecFile(file, place), message, advice: adviceCallback }]];
}

// jest-circus 27 to 30.
function groups(file: SpecFileFacts, { runner, major }: RunnerFacts): [string, Use][] {
  const place = runner === 'jest' && major !== undefined && major >= 27 ? file.get(ASYNC_GROUP) : undefined;
  if (!place) return [];
  const message = (files: readonly unknown[]): string => messageGroup(runner, files);
  return [['group', { file, place: inSpecFile(file, place), message, advice: adviceGroup }]];
}

// Matchers of that form are called `to.…` in chai; its plug-ins add words to it, and none of these.
function matchers(file: SpecFileFacts, { expects }: RunnerFacts): [string, Use][] {
  if ((file.get(EXPECT_FROM) ?? expects) !== 'chai') return [];
  return [...file.get(MATCHERS)].flatMap(([matcher, place]): [string, Use][] =>
    /^to(?:Be|Equal|StrictEqual|HaveBeen|HaveLength|HaveProperty|Contain|Match|Throw)/.test(matcher)
      ? [
          [
            'expect',
            {
              file,
              place: inSpecFile(file, place),
              message: (files) => messageMatcher(matcher, files),
              advice: adviceMatcher,
            },
          ],
        ]
      : [],
  );
}
