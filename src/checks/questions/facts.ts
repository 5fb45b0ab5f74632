import { DONE } from '../../specs/reader/suite.js';
import { NO_MATCHERS, type AddedMatchers } from '../../project/added-matchers.js';
import { runnerLibraries } from '../../libraries/runners.js';
import type { Span } from '../../finding.js';
import { componentUsesIn, type ComponentUse } from '../../rendering/uses.js';
import type { SpecFile } from '../../specs/model/blocks.js';
import type { Import, ImportedModule } from '../../syntax/module-facts.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import type { Component } from '../../components/view.js';
import { shownNeeds } from './shown-at-once.js';
import { fileFact, type FileContext, type ProjectContext, type SpecFileFacts } from './context.js';
import { sizesOf, type SpecSizes } from './spec-sizes.js';

/** Files of the project that it imports. */
export const IMPORTED = fileFact('imported', ({ file }): ReadonlySet<string> => file.imported);

/** What its specs give to components. */
export const USES = fileFact('uses', ({ file, rendering, project }): readonly ComponentUse[] =>
  componentUsesIn(file, rendering, project, rendering.shownProps),
);

/** Modules that it loads, each with the place of the quoted name. */
export const MODULES = fileFact(
  'modules',
  ({ file, project }): readonly ImportedModule[] => project.summary(file.path)?.modules ?? [],
);

/** The names that it imports, each with its module. */
export const IMPORTS = fileFact('imports', ({ file }): readonly Import[] => [...file.imports.values()]);

/** Modules that it replaces by stand-ins: files of the project, and package names. */
export const REPLACED = fileFact('replaced', ({ file }): ReadonlySet<string> => file.replaced);

/** Those of them that are never loaded: no factory takes the real module in hand, and no runner makes a stand-in after it. */
export const KEPT_OUT = fileFact('kept out', ({ file }): ReadonlySet<string> => {
  const loaded = file.replacements.filter(({ partial, automatic }) => partial || automatic);
  const names = new Set(loaded.flatMap((each) => [each.specifier, each.file ?? '']));
  return new Set([...file.replaced].filter((each) => !names.has(each)));
});

/** Runner functions used with no import, each at its first use. */
export const GLOBALS = fileFact('globals', ({ file }): ReadonlyMap<string, Span> => file.globals);

/** Matchers, each at its first use. */
export const MATCHERS = fileFact('matchers', ({ file }) => matchersOf(file));

/** Matchers that it adds to `expect` by itself. */
export const ADDED_MATCHERS = fileFact(
  'added matchers',
  ({ file, project }): AddedMatchers => project.summary(file.path)?.addedMatchers ?? NO_MATCHERS,
);

/** The modules that its functions of a runner come from. */
export const RUNNER_MODULES = fileFact('runner modules', ({ file }): readonly string[] =>
  modulesOf(file).filter((each) => runnerLibraries.some(({ modules }) => modules.includes(each))),
);

/** How many renders it has that need a document. */
export const RENDERS = fileFact(
  'renders',
  ({ file }) => file.renders.filter(({ teardown }) => teardown !== 'not-needed').length,
);

/** The document that a comment of the file chooses. */
export const CHOSEN_DOCUMENT = fileFact('chosen document', chosenDocument);

/** The name of the document that a runner runs a file in: a comment of the file wins over the settings. */
export const documentOf = (file: SpecFileFacts, { document }: RunnerFacts): string | undefined =>
  file.get(CHOSEN_DOCUMENT)?.name ?? (document.known ? document.value : undefined);

/** The module that its `expect` comes from; undefined for a global one. */
export const EXPECT_FROM = fileFact('expect from', ({ file }) => file.imports.get('expect')?.specifier);

/** How large its specs are. */
export const SIZES = fileFact('sizes', ({ file }): SpecSizes => sizesOf(file));

/** The modules that it imports names from. */
const modulesOf = ({ imports }: SpecFile): string[] =>
  [...imports.values()].map(({ specifier }) => specifier);

/** The modules that it replaces by stand-ins, and that must be there. */
export const STOOD_FOR = fileFact('stood for', ({ file }) =>
  file.replacements.flatMap(({ specifier, place, virtual }) => (virtual ? [] : [{ specifier, ...place }])),
);

/** What the components that it shows call at once, of modules that its own factories replace and do not give it from. */
export const UNGIVEN_BELOW = fileFact('ungiven below', (context) => {
  const { replacements } = context.file;
  if (replacements.every(({ gives }) => !gives)) return [];
  return shownNeeds(context, (calls, _, project) =>
    calls.flatMap(({ path, at }) => {
      const imported = project.summary(at.file)?.imports.get(path);
      if (!imported || imported.name === '*') return [];
      const { specifier, name } = imported;
      const target = project.resolve(at.file, specifier);
      const [only, ...others] = replacements.filter((each) =>
        each.file === undefined ? each.specifier === specifier : each.file === target,
      );
      return !only?.gives || others.length > 0 || only.gives.has(name)
        ? []
        : [{ what: { specifier: only.specifier, name, isMarked: isMarked(only.gives), ...only.place }, at }];
    }),
  );
});

/** Where a group is made by an async function. */
export const ASYNC_GROUP = fileFact(
  'async group',
  ({ file }): Span | undefined =>
    file.blocks.find(({ kind, fn, mark }) => kind === 'group' && fn?.async === true && mark !== 'skip')
      ?.callee,
);

/** What factories of modules read before it is there, with the module: as it is written, and its file. */
export const LIFTED = fileFact('lifted', ({ file }) =>
  file.replacements.flatMap(({ specifier, file: replaced, lifted }) =>
    lifted ? [{ specifier, file: replaced, ...lifted }] : [],
  ),
);

/** Names that it imports from modules which its own factories replace, and which they do not give. */
export const UNGIVEN = fileFact('ungiven', ({ file, project }) =>
  [...file.imports].flatMap(([local, { specifier, name, typeOnly, start, end }]) => {
    const target = project.resolve(file.path, specifier);
    const given = file.replacements.filter(
      (each) => each.specifier === specifier || (target !== undefined && each.file === target),
    );
    const [only, ...others] = given;
    const isGiven = !only?.gives || others.length > 0 || only.gives.has(name) || name === '*';
    return isGiven ||
      typeOnly ||
      project.onlyKeeps(file.path, local) ||
      project.onlyCompares(file.path, local)
      ? []
      : [{ specifier, name, isMarked: isMarked(only.gives), start, end }];
  }),
);

// A stand-in that says it is an ES module: only then is what it gives by default no more than its `default`.
const isMarked = (gives: ReadonlySet<string> | undefined): boolean => gives?.has('__esModule') === true;

/** Where a spec or a hook first calls the callback that it takes from the runner. */
export const CALLED_BACK = fileFact('callback', ({ file }): Span | undefined => {
  for (const { waitsForCallback, steps } of file.blocks)
    for (const step of waitsForCallback ? steps : [])
      if (step.kind === 'assert' && step.assertion.style === 'call' && step.assertion.matcher === DONE)
        return step.place;
  return undefined;
});

function matchersOf({ blocks }: SpecFile): ReadonlyMap<string, Span> {
  const found = new Map<string, Span>();
  for (const { steps } of blocks) {
    for (const step of steps) {
      const matcher = step.kind === 'assert' ? step.assertion.matcher : undefined;
      if (matcher !== undefined && !found.has(matcher)) found.set(matcher, step.place);
    }
  }
  return found;
}

// A comment above the first statement chooses the document for one file.
function chosenDocument({ file }: FileContext): { name: string; place: Span } | undefined {
  for (const { text, start, end } of file.comments) {
    const name = /@(?:vitest|jest)-environment\s+([\w@./-]+)/.exec(text)?.[1];
    if (name) return { name, place: { start, end } };
  }
  return undefined;
}

/** Whether a spec file imports modules of the project that act or assert for it. */
export const takesHelpers = ({ file, project }: FileContext): boolean =>
  [...file.imported].some((path) => project.summary(path)?.usesTestLibrary);

/** The spec files that render a component themselves, not only what renders it. */
export const specFilesRendering = (component: Component, context: ProjectContext): SpecFileFacts[] =>
  (context.specFilesOf(component) ?? []).filter((file) =>
    file.get(USES).some((use) => use.component === component && use.by === undefined),
  );
