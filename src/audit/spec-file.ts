import type { Finding } from '../finding.js';
import type { FileContext, FileFact, SpecFileFacts } from '../checks/questions/context.js';
import { CHECKS } from '../checks/index.js';
import { usedReaches, type Used } from '../checks/questions/used-reaches.js';
import { manifestsOf, type Environment } from '../environment/facts/environment.js';
import { extensionOf } from '../libraries/matchers.js';
import { SpecRendering } from '../rendering/spec-rendering.js';
import type { ModuleTree, Project } from '../project/project.js';
import { styleOf, type Style } from '../writing/edits/style.js';
import { specsOf, type SpecFile } from '../specs/model/blocks.js';
import { readSpecFile } from '../specs/reader/suite.js';
import { reachCounts, type ReachCounts } from '../specs/model/rungs.js';
import { specFormOf, type SpecForm } from '../writing/spec-form.js';
import type { AuditSession } from './session.js';

/** A finding with its code. */
export interface Coded {
  code: string;
  found: Finding;
  /** The codes of what follows from it, and is not said for that. */
  hides?: readonly string[];
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
export function checkSpecFile(session: AuditSession, tree: ModuleTree): CheckedSpecFile {
  const context = contextOf(session, tree);
  const { file } = context;
  const found = CHECKS.flatMap((check) =>
    check.scope === 'file' && session.isOn(check.code)
      ? check.run(context).map((found) => ({ code: check.code, found: earned(found, file) }))
      : [],
  );
  return {
    facts: factsOf(context, session),
    found,
    reach: reachCounts(file),
    comments: file.comments,
    form: session.writesSpecs ? specFormOf(context, tree) : undefined,
  };
}

// One link guessed makes the chain a guess.
const earned = (found: Finding, { isGuessed }: SpecFile): Finding =>
  isGuessed ? { ...found, certainty: 'likely', mend: found.mend && { ...found.mend, safe: false } } : found;

/** All that there is to ask of one spec file. */
export function contextOf(session: AuditSession, tree: ModuleTree): FileContext {
  const { project, settings } = session;
  const file = readSpecFile(project, tree, settings.helpers);
  const environment = session.environments.of(file.path);
  const runners = environment.runnersOf(file.path);
  file.ownSpecsFirst = runners.length > 0 && runners.every(({ runner }) => runner === 'mocha');
  const setup = session.setupOf(file.path);
  if (setup?.replaced.size) file.replaced = new Set([...file.replaced, ...setup.replaced]);
  const modules = modulesAtHand(tree, environment);
  let style: Style | undefined;
  let used: readonly Used[] | undefined;
  return {
    file,
    source: tree.script.source,
    project,
    rendering: new SpecRendering(project, file, settings.testIdAttribute, session.shownProps),
    environment,
    runners,
    setup,
    modules,
    userCentred: isUserCentred(file, modules, project),
    documentMatchers: hasDocumentMatchers(file, modules),
    versionOf: (name) => session.environments.version(manifestsOf(environment), name),
    userActions: modules.find((module) => project.libraries.of(module)?.writes?.user),
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

// By what it imports or declares, or by what it does through modules that hand such a library on.
const isUserCentred = (
  { reaches, renders }: SpecFile,
  modules: readonly string[],
  { libraries }: Project,
): boolean =>
  [...modules, ...renders.map(({ module }) => module)].some((module) => libraries.isUserCentred(module)) ||
  reaches.some(({ asUser }) => asUser);

// Declared, or used: a file that uses one of them has them all, whoever registers them.
function hasDocumentMatchers({ blocks }: SpecFile, modules: readonly string[]): boolean {
  const extension = extensionOf('toBeInTheDocument');
  const isOne = (matcher: string | undefined): boolean =>
    matcher !== undefined && extensionOf(matcher) === extension;
  return (
    modules.some((module) => extension?.modules.includes(module)) ||
    blocks.some(({ steps }) => steps.some((step) => step.kind === 'assert' && isOne(step.assertion.matcher)))
  );
}

// What the file imports, and what its manifests declare.
const modulesAtHand = ({ facts }: ModuleTree, { manifest, outer }: Environment): string[] => [
  ...facts.modules.map(({ specifier }) => specifier),
  ...[manifest, ...outer].flatMap((each) => [...(each?.dependencies.keys() ?? [])]),
];

function factsOf(context: FileContext, session: AuditSession): SpecFileFacts {
  const kept = new Map(session.facts.map((fact) => [fact, fact.of(context)]));
  return {
    path: context.file.path,
    package: context.environment.folder,
    specs: specsOf(context.file).length,
    get: readerOf(kept),
  };
}

// Not made beside the context, which it would keep, and with it the trees of the file.
const readerOf =
  (kept: ReadonlyMap<FileFact<unknown>, unknown>): SpecFileFacts['get'] =>
  <T>(fact: FileFact<T>): T => {
    if (!kept.has(fact)) throw new Error(`no check that is on has declared the fact “${fact.name}”`);
    // A fact is kept under itself.
    return kept.get(fact) as T;
  };
