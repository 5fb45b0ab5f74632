import { IMPORTS } from '../questions/facts.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import type { Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { andMore, byRunners, packagesWithSpecs, type Package } from '../questions/packages.js';
import { ADAPTERS } from '../questions/sets-up.js';
import { majorOf } from '../../environment/versions.js';
import { packageOf } from '../../util/paths.js';
import { lostSetup } from './E04.js';
import { callsName } from '../../project/module-questions.js';
import { reachableFrom } from '../../project/reachable.js';
import { callWithout } from '../../project/what-runs.js';

const message = (name: string, what: string, files: readonly unknown[]): string =>
  `${name} is used here${andMore(files)}, and nothing that runs before it ${what}.`;

// @pinia/testing 0.1 and 1: it takes the global `vi` or `jest` where it is told of no other.
const SPYLESS = fileFact('store without spies', ({ file, project }) =>
  callWithout(project, file.path, { specifier: '@pinia/testing', name: 'createTestingPinia' }, 'createSpy'),
);
const messageSpyless = (files: readonly unknown[]): string =>
  `createTestingPinia is called here${andMore(files)} without createSpy, and no global of the runner makes its spies: it throws.`;
const adviceSpyless = 'Hand it over: createTestingPinia({ createSpy: vi.fn })';

function withoutSpies({ specFiles, environment }: Package): Finding[] {
  const lacking = specFiles.flatMap((file) => {
    const runners = environment.runnersOf(file.path);
    const place = file.get(SPYLESS);
    const isOff = runners.length > 0 && runners.every(({ globals }) => globals.known && !globals.value);
    return place && isOff ? [inSpecFile(file, place)] : [];
  });
  const [place] = lacking;
  return place ? [{ place, certainty: 'sure', message: messageSpyless(lacking), advice: adviceSpyless }] : [];
}

/** A library that has to be set up once before specs can use it, and that nothing sets up. */
export const E25: ProjectCheck = {
  code: 'E25',
  family: 'environment',
  scope: 'project',
  facts: [IMPORTS, SPYLESS],
  title: 'Library that nobody sets up',
  level: 'blocker',
  why: 'Its first call throws in every spec, whatever the component does.',
  certain: 'Sure where the set-up files and all that they load can be read.',
  trouble: "import { mount } from 'enzyme'; // and no file configures an adapter",
  mended: "import Adapter from 'enzyme-adapter-react-16';\n\nconfigure({ adapter: new Adapter() });",
  run: (context) =>
    packagesWithSpecs(context).flatMap((each) => [...check(each, context), ...withoutSpies(each)]),
};

/** A library, and what must have been done for it. */
interface Need {
  module: string;
  /** In words, of what runs before. */
  what: string;
  advice: string;
  /** The runners that do not do it by themselves. */
  runners: readonly string[];
  /** Modules that do it by being loaded. */
  by: RegExp;
  /** Calls that do it, by their names. */
  calls: readonly string[];
  /** The first major of the module's package that does without. */
  until?: number;
}

// enzyme 3: configure of an adapter. @angular/core 12 to 21: initTestEnvironment, which Angular's own builders call.
const NEEDS: readonly Need[] = [
  {
    module: 'enzyme',
    what: 'configures its adapter',
    advice: 'In a set-up file that the settings name: configure({ adapter: new Adapter() })',
    runners: ['jest', 'mocha', 'vitest'],
    by: /^(?:jest-environment-enzyme|enzyme-adapter-.*\/setup)/,
    calls: ['configure'],
  },
  {
    module: '@angular/core/testing',
    what: 'sets the test bed up',
    advice:
      'In a set-up file that the settings name: import what sets the test bed up, or call initTestEnvironment.',
    runners: ['jest', 'vitest'],
    by: /^jest-preset-angular\/setup/,
    calls: ['initTestEnvironment', 'setupTestBed'],
  },
  {
    module: '@angular/core/testing',
    what: 'loads zone.js, or says that there is none',
    advice:
      'In a set-up file that the settings name: import zone.js, or provide change detection without a zone.',
    runners: ['vitest'],
    by: /^zone\.js(?:\/|$)|^@analogjs\/vitest-angular\/setup-zone$/,
    calls: ['setupTestBed', 'provideZonelessChangeDetection', 'provideExperimentalZonelessChangeDetection'],
    until: 21,
  },
];

function check(each: Package, context: ProjectContext): Finding[] {
  // What a package does not ship may do it.
  if (!each.environment.isWhole) return [];
  const follows = lostSetup(each.environment, context);
  // What a library needs after what it lacks already is for the next look.
  const lacked = new Set<string>();
  return NEEDS.flatMap((need): Finding[] => {
    if (lacked.has(need.module)) return [];
    const major = majorOf(context.versionOf(each.environment, packageOf(need.module)));
    if (need.until !== undefined && (major === undefined || major >= need.until)) return [];
    const lacking = byRunners(each).flatMap(({ runners, files }) =>
      runners.every((runner) => need.runners.includes(runner.runner) && isPlain(runner))
        ? files.filter((file) => uses(file, need) && !isMet(file, need, context))
        : [],
    );
    const [first] = lacking;
    const place = first?.get(IMPORTS).find(({ specifier }) => specifier === need.module);
    if (!first || !place) return [];
    lacked.add(need.module);
    return [
      {
        place: inSpecFile(first, place),
        certainty: 'sure',
        message: message(need.module, need.what, lacking),
        advice: need.advice,
        follows,
      },
    ];
  });
}

// A preset or plugin that is not known may name set-up files of its own.
const isPlain = ({ setupFiles, document }: RunnerFacts): boolean => setupFiles.known && document.known;

const uses = (file: SpecFileFacts, { module }: Need): boolean =>
  file.get(IMPORTS).some(({ specifier, typeOnly }) => specifier === module && !typeOnly);

function isMet(file: SpecFileFacts, { by, calls, module }: Need, context: ProjectContext): boolean {
  const { project, setupOf } = context;
  const setup = setupOf(file.path);
  if (!setup) return true;
  // An adapter that the set-up loads and does not configure is of no use: only the call counts, but for what calls by itself.
  const { files, others } = reachableFrom(project, [file.path, ...setup.files]);
  if ([...others, ...setup.packages].some((name) => by.test(name))) return true;
  const unread = [...setup.packages].some(
    (name) => !ADAPTERS.test(name) && name !== module && !project.libraries.of(name),
  );
  if (setup.strangers.length > 0 && unread) return true;
  return [...files].some((path) => calls.some((call) => callsName(project, path, call)));
}
