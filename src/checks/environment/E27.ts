import type { RunnerFacts } from '../../environment/facts/environment.js';
import { missingPart } from '../../libraries/missing-parts.js';
import type { Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { CHOSEN_DOCUMENT, documentOf, REPLACED } from '../questions/facts.js';
import { loadedBy } from '../questions/missing-modules.js';
import { andMore } from '../questions/packages.js';
import type { SetupEffects } from '../questions/setup-effects.js';
import { shownNeeds, unmetNeeds, type ShownNeed } from '../questions/shown-at-once.js';

const message = (name: string, component: string, files: readonly unknown[]): string =>
  `${component} calls ${name} as soon as it is shown${andMore(files)}, and jsdom has no such thing.`;
const advice = (name: string, setup: string | undefined): string =>
  `Put a stand-in for ${name} in place before the specs${setup === undefined ? ', in a set-up file' : `, in ${setup}`}.`;

const NEEDS = fileFact('platform needs', (context) =>
  shownNeeds(context, (calls, _, project) =>
    calls.flatMap(({ path, at }) =>
      project.summary(at.file)?.imports.has(path) ? [] : [{ what: path, at }],
    ),
  ),
);

/** Specs that show a component which calls what their document does not have. */
export const E27: ProjectCheck = {
  code: 'E27',
  family: 'environment',
  scope: 'project',
  facts: [NEEDS, CHOSEN_DOCUMENT, REPLACED],
  title: 'Part of the platform that the document lacks',
  level: 'blocker',
  why: 'The component throws before its first assertion, though it is right in every browser.',
  certain: 'Sure where the call stands under no condition, and no file that is loaded names what it calls.',
  trouble:
    "useEffect(() => {\n  window.matchMedia('(width < 40em)').addEventListener('change', onChange);\n}, []);",
  mended:
    '// test/setup.ts\nwindow.matchMedia = (media) => Object.assign(new EventTarget(), { media, matches: false });',
  run: (context) =>
    unmetNeeds(NEEDS, context, (need, file) => lacking(need, file, context)).map(({ need, name, files }) =>
      finding(need, name, files, context),
    ),
};

function finding(
  { component, at, start, end }: ShownNeed<string>,
  name: string,
  [first, ...more]: readonly [SpecFileFacts, ...SpecFileFacts[]],
  { setupOf, root }: ProjectContext,
): Finding {
  const setup = setupOf(first.path)?.files[0];
  return {
    place: inSpecFile(first, { start, end }),
    certainty: 'sure',
    message: message(name, component, [first, ...more]),
    advice: advice(name, setup?.startsWith(`${root}/`) ? setup.slice(root.length + 1) : undefined),
    evidence: [{ ...at, note: 'calls it under no condition' }],
  };
}

// Whoever puts a stand-in in its place names it; a package that is loaded before the specs may do it without.
function lacking(need: ShownNeed<string>, file: SpecFileFacts, context: ProjectContext): string | undefined {
  const runners = context.environmentOf(file.path).runnersOf(file.path);
  const isJest = runners.every(({ runner }) => runner === 'jest' || runner === 'react-scripts');
  const name = missingPart(need.what, isJest);
  const setup = context.setupOf(file.path);
  if (file.get(REPLACED).has(need.at.file)) return undefined;
  if (
    name === undefined ||
    !setup ||
    setup.strangers.length > 0 ||
    !(bringsJsdom(setup) || runners.every((runner) => isJsdom(file, runner)))
  )
    return undefined;
  if ([...setup.packages].some((each) => MAY_BRING.test(each))) return undefined;
  const others = [...loadedBy([file], file.get(REPLACED), context).keys()].filter(
    (path) => path !== need.at.file,
  );
  const isNamed = others.some((path) => {
    const text = context.project.source(path)?.text ?? '';
    return text.includes(name);
  });
  return isNamed ? undefined : name;
}

const MAY_BRING =
  /polyfill|mock|shim|stub|fake|observer|match-?media|fetch|core-js|canvas|msw|undici|whatwg|dialog/i;

// Packages that put the window of jsdom in place of the global one, parts that it lacks left out.
const bringsJsdom = ({ packages }: SetupEffects): boolean =>
  [...packages].some((name) => /^(?:global-jsdom|jsdom-global)(?:\/register)?$/.test(name));

const isJsdom = (file: SpecFileFacts, runner: RunnerFacts): boolean => {
  const name = documentOf(file, runner);
  return name === 'jsdom' || name === 'jest-environment-jsdom';
};
