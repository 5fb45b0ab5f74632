import { has, type Environment } from '../../environment/facts/environment.js';
import { majorOf } from '../../environment/versions.js';
import { hasStandIn } from '../../host/leads.js';
import { providerFor } from '../../libraries/providers.js';
import { reachableFrom } from '../../project/reachable.js';
import { makerOf, speaksOf } from '../../project/module-questions.js';
import { packageOf } from '../../util/paths.js';
import { isSent } from '../questions/aliases.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { MODULES, REPLACED } from '../questions/facts.js';
import { loadedBy } from '../questions/missing-modules.js';
import { andMore } from '../questions/packages.js';
import { importedAtOnce, shownNeeds, unmetNeeds, type ShownNeed } from '../questions/shown-at-once.js';

const message = (component: string, name: string, module: string, files: readonly unknown[]): string =>
  `${component} asks for ${name} of ${module} as soon as it is shown${andMore(files)}, and what that needs around it is not there.`;
const messageInjected = (
  component: string,
  name: string,
  module: string,
  files: readonly unknown[],
): string =>
  `${component} has ${name} of ${module} injected as soon as it is made${andMore(files)}, and nothing in the test bed provides it.`;
const advice = (around: string, module: string, isInjected = false): string =>
  isInjected
    ? `Provide it in the test bed: ${around}.`
    : around === ''
      ? `Put a stand-in for ${module} in its place.`
      : `Render it inside of ${around}, in the spec or in a wrapper.`;

interface Export {
  module: string;
  name: string;
}

const NEEDS = fileFact('provider needs', (context) =>
  shownNeeds(context, (calls, component, project) =>
    [
      ...calls.flatMap(({ path, at }) => {
        const imported = project.summary(at.file)?.imports.get(path);
        const declared = imported && project.imported(at.file, imported);
        const from = declared ? makerOf(project, declared) : imported;
        return from ? [{ ...from, at }] : [];
      }),
      ...importedAtOnce(component, project),
    ].flatMap(({ specifier: module, name, at }) =>
      providerFor(module, name) ? [{ what: { module, name }, at }] : [],
    ),
  ),
);

/** Specs that show a component which asks for a provider that nobody puts around it. */
export const E30: ProjectCheck = {
  code: 'E30',
  family: 'environment',
  scope: 'project',
  facts: [NEEDS, MODULES, REPLACED],
  title: 'No provider around what asks for it',
  level: 'blocker',
  why: 'The component throws before the first assertion: “could not find … context”.',
  certain:
    'Sure where it is asked for under no condition, and nothing that the spec file loads speaks of a provider.',
  trouble: 'const navigate = useNavigate(); // and the spec: render(<KilnCard />)',
  mended: 'render(<KilnCard />, { wrapper: MemoryRouter });',
  run: (context) =>
    unmetNeeds(NEEDS, context, (need, file) =>
      isOutside(need, file, context) ? `${need.what.module} ${need.what.name}` : undefined,
    ).map(({ need: { what, component, at, ...place }, files }) => {
      const row = providerFor(what.module, what.name);
      const text = row?.injected ? messageInjected : message;
      return {
        place: inSpecFile(files[0], place),
        certainty: 'sure',
        message: text(component, what.name, what.module, files),
        advice: advice(row?.around ?? '', what.module, row?.injected),
        evidence: [{ ...at, note: 'asks for it under no condition' }],
      };
    }),
};

function isOutside(
  { what: { module, name }, component, at }: ShownNeed<Export>,
  file: SpecFileFacts,
  context: ProjectContext,
): boolean {
  const row = providerFor(module, name);
  const environment = context.environmentOf(file.path);
  const runners = environment.runnersOf(file.path);
  const setup = context.setupOf(file.path);
  if (!row || !setup || setup.strangers.length > 0 || runners.length === 0) return false;
  const replaced = file.get(REPLACED);
  const isReplaced = [module, at.file].some((each) => replaced.has(each) || setup.replaced.has(each));
  const isAway = runners.some(
    ({ aliases, folder }) =>
      !aliases.known || isSent(module, aliases.value) || hasStandIn(context.files, [folder], module),
  );
  if (isReplaced || isAway || !throws(module, row, environment, context)) return false;
  if (row.injected && mayProvide(name, component, at.file, file, context)) return false;
  // What is not known may render inside of anything.
  const isKnown = file
    .get(MODULES)
    .every(
      ({ specifier }) =>
        !MAY_WRAP.test(specifier) ||
        WRAPS_NOTHING.has(specifier) ||
        context.project.libraries.of(specifier) ||
        specifier.startsWith('.'),
    );
  return (
    isKnown &&
    ![...loadedBy([file], replaced, context).keys()].some((path) => speaksOf(context.project, path, row.by))
  );
}

// A spec file that speaks of it, or of what asks for it beside the component, may put something in its place; so may an unknown kit.
function mayProvide(
  name: string,
  component: string,
  askedIn: string,
  file: SpecFileFacts,
  { project }: ProjectContext,
): boolean {
  const isKnownKit = file
    .get(MODULES)
    .every(
      ({ specifier }) =>
        /^(?:\.|@angular\/|rxjs)/.test(specifier) ||
        project.resolve(file.path, specifier) ||
        project.libraries.of(specifier),
    );
  const imports = [...(project.summary(file.path)?.imports ?? [])];
  const fileOf = ([, from]: (typeof imports)[number]): string | undefined =>
    project.imported(file.path, from)?.file;
  const shown = imports.find(([local]) => local === component);
  const home = shown && fileOf(shown);
  const own = imports.flatMap((each) => fileOf(each) ?? []).filter((path) => path !== home);
  const itself = new RegExp(`^${name}$`);
  return (
    !isKnownKit ||
    [file.path, ...own].some((path) => speaksOf(project, path, itself)) ||
    reachableFrom(project, own).files.has(askedIn)
  );
}

// It makes a store, which whoever uses it hands on.
const WRAPS_NOTHING: ReadonlySet<string> = new Set(['@pinia/testing']);
const MAY_WRAP = /test|wrap|provid|render|storybook|mock/i;

function throws(
  module: string,
  { since, until }: { since?: number; until?: number },
  environment: Environment,
  { versionOf }: ProjectContext,
): boolean {
  const name = packageOf(module);
  const major = majorOf(versionOf(environment, name));
  const isOf = (bound: number | undefined, is: (major: number, bound: number) => boolean): boolean =>
    bound === undefined || (major !== undefined && is(major, bound));
  return (
    has(environment, name) && isOf(since, (of, than) => of >= than) && isOf(until, (of, than) => of < than)
  );
}
