import type { Finding } from '../checks/questions/check.js';
import type { FileContext, SpecFileFacts } from '../checks/questions/context.js';
import { CHECKS } from '../checks/index.js';
import { firedIn, NOTHING_FIRED } from '../checks/questions/fired.js';
import { comparedRender } from '../checks/queries/Q07.js';
import { beginningsIn } from '../writing/helper-module.js';
import { sizesOf } from '../checks/questions/spec-sizes.js';
import { usedReaches, type Used } from '../checks/questions/used-reaches.js';
import { unnamedControls } from '../checks/questions/unnamed.js';
import { declares, manifestsOf, type Environment } from '../environment/facts/environment.js';
import { packageOf } from '../util/paths.js';
import { extensionOf } from '../libraries/matchers.js';
import { runners } from '../libraries/runners.js';
import { NO_MATCHERS } from '../project/added-matchers.js';
import type { Component } from '../components/view.js';
import type { Span } from '../finding.js';
import { Links } from '../rendering/links.js';
import { usesIn } from '../rendering/uses.js';
import type { ModuleTree } from '../project/project.js';
import { styleOf, type Style } from '../writing/edits/style.js';
import { groupTitles, specsOf, type Block, type SpecFile } from '../specs/model/blocks.js';
import type { Render } from '../specs/model/steps.js';
import { readSpecFile } from '../specs/reader/suite.js';
import { reachCounts, type ReachCounts } from '../specs/model/rungs.js';
import { specFormOf, type SpecForm } from '../writing/spec-form.js';
import type { Stage } from './stage.js';

/** A finding with its code, and the titles around it: the block itself would keep the whole file in memory. */
export interface Coded {
  code: string;
  found: Omit<Finding, 'block'>;
  within?: { group: string[]; spec?: string };
}

/** What one spec file gives to the report. */
export interface CheckedSpecFile {
  facts: SpecFileFacts;
  found: Coded[];
  reach: ReachCounts;
  comments: SpecFile['comments'];
  /** How it is written, where specs are to be added. */
  form?: SpecForm;
}

/** Reads and checks one spec file; its syntax tree is let go afterwards. */
export function checkSpecFile(stage: Stage, tree: ModuleTree): CheckedSpecFile {
  const context = contextOf(stage, tree);
  const { file } = context;
  const found = CHECKS.flatMap((check) =>
    check.scope === 'file' && stage.isOn(check.code)
      ? check.run(context).map((each) => coded(check.code, each))
      : [],
  );
  return {
    facts: factsOf(context, tree, stage, stage.environments.of(file.path)),
    found,
    reach: reachCounts(file),
    comments: file.comments,
    form: stage.writesSpecs ? specFormOf(context, tree) : undefined,
  };
}

/** All that there is to ask of one spec file. */
export function contextOf(stage: Stage, tree: ModuleTree): FileContext {
  const { project, settings } = stage;
  const file = readSpecFile(project, tree, settings.helpers);
  const environment = stage.environments.of(file.path);
  const runners = environment.runnersOf(file.path);
  file.ownSpecsFirst = runners.length > 0 && runners.every(({ runner }) => runner === 'mocha');
  const modules = modulesAtHand(tree, environment);
  let style: Style | undefined;
  let used: readonly Used[] | undefined;
  return {
    file,
    source: tree.script.source,
    project,
    links: new Links(project, file, settings.testIdAttribute, stage.shownProps),
    runners,
    setup: stage.setupOf(file.path),
    modules,
    userCentred: modules.some((each) => project.libraries.isUserCentred(each)),
    documentMatchers: modules.some((each) => extensionOf('toBeInTheDocument')?.modules.includes(each)),
    versionOf: (name) => stage.environments.version(manifestsOf(environment), name),
    userActions: modules.find((each) => project.libraries.of(each)?.writes?.user),
    testIdAttribute: settings.testIdAttribute,
    limits: settings.limits,
    // Most files have no finding that needs them.
    get style() {
      return (style ??= styleOf(tree.script.source.text));
    },
    get used() {
      return (used ??= usedReaches(file));
    },
  };
}

function coded(code: string, { block, ...found }: Finding): Coded {
  if (!block) return { code, found };
  const title = block.title.text;
  const outer = groupTitles(block);
  const group = block.kind === 'group' ? [...outer, title] : outer;
  return { code, found, within: { group, spec: block.kind === 'spec' ? title : undefined } };
}

// What the file imports, and what its manifests declare.
const modulesAtHand = ({ facts }: ModuleTree, { manifest, outer }: Environment): string[] => [
  ...facts.modules.map(({ specifier }) => specifier),
  ...[manifest, ...outer].flatMap((each) => [...(each?.dependencies.keys() ?? [])]),
];

function factsOf(
  context: FileContext,
  tree: ModuleTree,
  stage: Stage,
  environment: Environment,
): SpecFileFacts {
  const { project } = stage;
  const { file } = context;
  const rendered = new Set<Component>();
  for (const { view, file: from } of file.renders) {
    for (const node of view ?? []) {
      const component = node.kind === 'component' && node.ref ? project.component(from, node.ref) : undefined;
      if (component) rendered.add(component);
    }
  }
  const modules = [...file.imports.values()].map(({ specifier }) => specifier);
  return {
    path: file.path,
    package: environment.folder,
    specs: specsOf(file).length,
    imported: file.imported,
    rendered,
    uses: USES_ASKED.some((code) => stage.isOn(code))
      ? usesIn(file, context.links, project, stage.shownProps)
      : [],
    fired: stage.isOn('B04') ? firedIn(context) : NOTHING_FIRED,
    importsByPattern: file.importsByPattern,
    unresolved: [...new Set(modules)].filter((each) => isUnresolved(each, file.path, stage, environment)),
    modules: tree.facts.modules,
    replaced: file.replaced,
    globals: file.globals,
    matchers: matchersOf(file),
    addedMatchers: project.summary(file.path)?.addedMatchers ?? NO_MATCHERS,
    documentUse: file.documentUse,
    firstRender: file.renders.find(needsDocument)?.place,
    chosenEnvironment: chosenEnvironment(file),
    comparesMarkup: file.blocks.some(({ steps }) =>
      steps.some((step) => step.kind === 'assert' && comparedRender(step.assertion) !== undefined),
    ),
    unnamed: stage.isOn('Q11') ? unnamedControls(context) : [],
    cleansUp: file.blocks.some(isCleaning),
    runnerModules: modules.filter((each) => runners.some(({ modules: names }) => names.includes(each))),
    renders: file.renders.length,
    beginnings: stage.isOn('O08') ? beginningsIn(file) : [],
    sizes: sizesOf(file),
  };
}

// The checks that ask what specs give to components.
const USES_ASKED = ['B03', 'B04', 'B05', 'B06'];

function isUnresolved(
  specifier: string,
  file: string,
  { project }: Stage,
  environment: Environment,
): boolean {
  if (specifier.startsWith('node:') || project.libraries.of(specifier) || project.resolve(file, specifier))
    return false;
  return !declares(environment, packageOf(specifier));
}

function matchersOf(file: SpecFile): Map<string, Span> {
  const found = new Map<string, Span>();
  for (const { steps } of file.blocks) {
    for (const step of steps) {
      const matcher = step.kind === 'assert' ? step.assertion.matcher : undefined;
      if (matcher !== undefined && !found.has(matcher)) found.set(matcher, step.place);
    }
  }
  return found;
}

// Trees of instances, and wrappers around one level of elements, are made without a document.
const needsDocument = ({ gives, shallow }: Render): boolean =>
  gives !== 'test-renderer' && !(shallow && gives === 'tree-wrapper');

// A comment above the first statement chooses the document for one file.
function chosenEnvironment({ comments }: SpecFile): SpecFileFacts['chosenEnvironment'] {
  for (const { text, start, end } of comments) {
    const name = /@(?:vitest|jest)-environment\s+([\w@./-]+)/.exec(text)?.[1];
    if (name) return { name, place: { start, end } };
  }
  return undefined;
}

const isCleaning = (block: Block): boolean =>
  (block.hook === 'after-each' || block.hook === 'before-each') &&
  block.steps.some(({ kind }) => kind === 'unmount' || kind === 'restore');
