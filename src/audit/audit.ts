import { USES } from '../checks/questions/facts.js';
import { commonAnswers, replacedBy } from '../checks/questions/answers.js';
import { carriedTo, elementKey, FIRED } from '../checks/questions/fired.js';
import { wholeSight } from '../checks/questions/sight.js';
import type { ProjectContext, SpecFileFacts } from '../checks/questions/context.js';
import { CHECKS } from '../checks/index.js';
import { branchFacts } from '../coverage/arm-facts.js';
import { armGaps } from '../coverage/gaps.js';
import { namedCoverage, readCoverage, usualCoverage } from '../coverage/read.js';
import type { Coverage } from '../coverage/coverage.js';
import type { Files } from '../host/files.js';
import type { Candidates } from '../host/find.js';
import { manifestsOf } from '../environment/facts/environment.js';
import type { Setting } from '../environment/settings/setting.js';
import type { Component } from '../components/view.js';
import { unlike, type ComponentUse } from '../rendering/uses.js';
import { unseenUses } from '../rendering/unseen-uses.js';
import type { Project } from '../project/project.js';
import { speaksOfFailure } from '../specs/reader/failures.js';
import { grouped } from '../util/grouped.js';
import { ImportGraph } from '../project/import-graph.js';
import type { Problem, Source } from '../syntax/source.js';
import { relativeTo } from '../util/paths.js';
import picomatch from 'picomatch';
import { discover, prepare, type AuditRequest } from './prepare.js';
import { makeReport } from './make-report.js';
import { withoutFollowing } from './follows.js';
import { type Gathered } from './gathered.js';
import { pendingSpecs, type PendingFile } from '../writing/pending-specs.js';
import type { Report } from './report.js';
import { checkSpecFile, type CheckedSpecFile, type Coded } from './spec-file.js';
import type { AuditSession } from './session.js';

/** Audits a suite. Reads only; runs nothing of the project. Gives the report, equal for equal files. */
export async function audit(files: Files, request: AuditRequest): Promise<Report> {
  return makeReport(await gather(files, request));
}

/** Audits a suite, and writes pending specs for the arms that none of its specs takes. */
export async function auditWithPending(
  files: Files,
  request: AuditRequest,
): Promise<{ report: Report; pending: PendingFile[] }> {
  const gathered = await gather(files, { ...request, writesSpecs: true });
  const forms = gathered.checked.flatMap(({ form }) => form ?? []);
  const { context, components, found } = gathered;
  const unrendered = components.filter(({ file, name }) =>
    found.some(
      ({ found: { gap, place } }) =>
        gap?.kind === 'component' && gap.component === name && place.file === file,
    ),
  );
  const pending = pendingSpecs(context, forms, unrendered, request.settings.testIdAttribute);
  return { report: makeReport(gathered), pending };
}

async function gather(files: Files, request: AuditRequest): Promise<Gathered> {
  const problems: Problem[] = [];
  const candidates = discover(files, request, problems);
  const session = await prepare(files, request, candidates);
  const components = readSources(session, candidates);
  const checked = readSpecFiles(session, candidates, request);
  const coverage = measure(session, request, [...candidates.sources, ...candidates.specs], problems);
  const { environments, project } = session;
  const settingsFiles = new Set(
    environments.all().flatMap(({ runners }) => runners.flatMap(({ settingsFile }) => settingsFile ?? [])),
  );
  const unreadSpecs = [
    ...project.problems.filter(({ file }) => candidates.specs.includes(file)),
    ...environments.problems.filter(({ file }) => settingsFiles.has(file)),
  ];
  const withSpecs = new Set(checked.map(({ facts }) => facts.path));
  const context = {
    ...projectContext(session, components, checked, coverage),
    sources: candidates.sources,
    unreadSpecs,
    node: request.node,
    unreadSettings: environments.problems,
    specless: candidates.specs.filter((path) => !withSpecs.has(path) && project.tree(path)),
  };
  const found = withoutFollowing([
    ...checked.flatMap((each) => each.found),
    ...checkProject(session, context),
  ]);
  const unread = [...problems, ...session.project.problems, ...session.environments.problems];
  return {
    session,
    components,
    checked,
    found,
    context,
    unread,
    specPaths: new Set(candidates.specs),
    version: request.version,
  };
}

// Components, and files that hold specs though their name does not say so.
function readSources({ project, settings, root }: AuditSession, candidates: Candidates): Component[] {
  const wanted = settings.components && picomatch([...settings.components], { dot: true });
  const components: Component[] = [];
  const bySpecs: string[] = [];
  for (const path of candidates.sources) {
    const summary = project.summary(path);
    if (!summary) continue;
    const relative = relativeTo(root, path);
    // Where the settings say what spec files are, contents tell nothing more.
    if (summary.definesSpecs && !settings.specs) bySpecs.push(path);
    else if (!isAside(relative) && !summary.usesTestLibrary && (!wanted || wanted(relative))) {
      components.push(...summary.components);
    }
  }
  candidates.specs = [...candidates.specs, ...bySpecs].sort();
  candidates.sources = candidates.sources.filter((path) => !bySpecs.includes(path));
  return components;
}

const ASIDE_NAME = /\.(?:stories|story|fixture|mock)\./;
const ASIDE_FOLDER =
  /(?:^|\/)(?:__mocks__|__fixtures__|__tests__|__examples__|fixtures|mocks|stories|examples|demos?|tests?|e2e|cypress|(?:[\w-]+-)?docs|playground|sandbox|website)\//;

// Stories, examples, stand-ins and helpers of specs hold components that nobody ships. The path is relative.
const isAside = (path: string): boolean => ASIDE_NAME.test(path) || ASIDE_FOLDER.test(path);

function readSpecFiles(
  session: AuditSession,
  { specs }: Candidates,
  { onProgress }: AuditRequest,
): CheckedSpecFile[] {
  const checked: CheckedSpecFile[] = [];
  for (const [i, path] of specs.entries()) {
    onProgress?.(i, specs.length, path);
    const tree = session.project.tree(path);
    if (!tree) continue;
    try {
      const file = checkSpecFile(session, tree);
      // A file without specs that is only named like one is a helper.
      if (file.facts.specs > 0) checked.push(file);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      session.project.problems.push({ file: path, reason: 'nested too deeply to be read' });
    }
  }
  return checked;
}

function measure(
  session: AuditSession,
  request: AuditRequest,
  sources: readonly string[],
  problems: Problem[],
): Coverage | undefined {
  const { files, settings, environments } = session;
  const folders = [session.root, ...environments.all().map(({ folder }) => folder)];
  const paths = settings.coverage
    ? namedCoverage(files, request.root, settings.coverage)
    : [...new Set(folders.flatMap((folder) => usualCoverage(files, folder)))];
  if (paths.length === 0) return undefined;
  const sourceOf = (path: string): Source | undefined => session.project.source(path);
  return readCoverage({ files, sources, sourceOf, onProblem: (problem) => problems.push(problem) }, paths);
}

function projectContext(
  session: AuditSession,
  components: Component[],
  checked: readonly CheckedSpecFile[],
  coverage: Coverage | undefined,
): Omit<ProjectContext, 'unreadSpecs' | 'unreadSettings' | 'specless' | 'sources' | 'node'> {
  const { files, project, environments } = session;
  const specFiles: SpecFileFacts[] = checked.map(({ facts }) => facts);
  const setting = (file: string): Setting | undefined => environments.setting(file);
  let graph: ImportGraph | undefined;
  let sight: ReturnType<typeof wholeSight> | undefined;
  let replaced: ReturnType<typeof replacedBy> | undefined;
  let branches: ReturnType<ProjectContext['branches']> | undefined;
  let uses: ReadonlyMap<Component, readonly ComponentUse[]> | undefined;
  let renderers: ReadonlyMap<Component, readonly SpecFileFacts[]> | undefined;
  return {
    setupOf: (file) => session.setupOf(file),
    versionOf: (environment, name) => environments.version(manifestsOf(environment), name),
    setting,
    imports: () =>
      (graph ??= new ImportGraph(
        project,
        specFiles.map(({ path }) => path),
      )),
    compilersIn: (folder) => environments.compilersIn(folder),
    usesOf(component) {
      uses ??= grouped(allUses(project, specFiles, this.imports().loaded), (use) => use.component);
      return uses.get(component) ?? [];
    },
    specFilesOf(component) {
      renderers ??= renderedBy(specFiles);
      return !this.isInSight(component) || this.usesOf(component).some(({ unseen }) => unseen)
        ? undefined
        : (renderers.get(component) ?? []);
    },
    isReplaced: (key) => (replaced ??= replacedBy(specFiles))(key),
    answersOf(component, key) {
      const renderedIn = this.specFilesOf(component);
      return renderedIn && commonAnswers(renderedIn, key);
    },
    carriedTo(component, { start, event }) {
      const key = elementKey(component.file, start);
      return this.specFilesOf(component)?.flatMap((file) => carriedTo(file.get(FIRED), key, event));
    },
    isInSight: (component) =>
      (sight ??= wholeSight(
        project,
        specFiles,
        project.problems.map(({ file }) => file),
      ))(component),
    speaksOfFailure(path) {
      const tree = project.tree(path);
      return tree === undefined || speaksOfFailure(tree.script.program);
    },
    branches() {
      if (branches) return branches;
      const facts = branchFacts(project, components, coverage, this);
      return (branches = { ...facts, ...armGaps(facts) });
    },
    root: session.root,
    files,
    project,
    specFiles,
    components,
    environments: environments.all(),
    environmentOf: (file) => environments.of(file),
    coverage,
    sourceOf: (file) => project.source(file),
  };
}

function allUses(
  project: Project,
  specFiles: readonly SpecFileFacts[],
  loaded: readonly string[],
): ComponentUse[] {
  const inSpecs = specFiles.flatMap((specFile) => specFile.get(USES));
  return unlike([...inSpecs, ...unseenUses(project, loaded, inSpecs)].filter(({ stubbed }) => !stubbed));
}

function renderedBy(specFiles: readonly SpecFileFacts[]): Map<Component, SpecFileFacts[]> {
  const found = new Map<Component, SpecFileFacts[]>();
  for (const file of specFiles)
    for (const component of new Set(file.get(USES).flatMap((use) => (use.stubbed ? [] : [use.component]))))
      found.set(component, [...(found.get(component) ?? []), file]);
  return found;
}

function checkProject(session: AuditSession, context: ProjectContext): Coded[] {
  return CHECKS.filter(({ code }) => session.isOn(code)).flatMap((check) => {
    const found = check.scope === 'project' ? check.run(context) : (check.across?.(context) ?? []);
    return found.map((each) => ({ code: check.code, found: each }));
  });
}
