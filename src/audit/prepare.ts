import { CATALOGUE, CHECKS } from '../checks/index.js';
import type { CheckText } from '../checks/questions/check.js';
import { GLOBALS, SIZES } from '../checks/questions/facts.js';
import { SIGHT } from '../checks/questions/sight.js';
import { setupEffects, type SetupEffects } from '../checks/questions/setup-effects.js';
import { librariesWith } from '../libraries/index.js';
import type { Dialect } from '../libraries/meaning.js';
import type { Settings } from '../config/settings.js';
import type { Files } from '../host/files.js';
import { findCandidates, type Candidates } from '../host/find.js';
import { Environments } from '../environment/read.js';
import { ShownProps } from '../rendering/shown-props.js';
import { settingAt, textOf } from '../environment/settings/setting.js';
import { workspacePackages } from '../project/workspace-packages.js';
import { Project } from '../project/project.js';
import { loadAngular } from '../syntax/angular.js';
import type { Problem } from '../syntax/source.js';
import type { AuditSession } from './session.js';

/** What an audit is asked for. Paths are absolute. */
export interface AuditRequest {
  /** The folder that paths in the report start from. */
  root: string;
  /** Files and folders to audit. */
  paths: readonly string[];
  settings: Settings;
  /** Codes and families that take part; all where there is none. */
  only?: readonly string[];
  version: string;
  /** The version of the Node that specs would run on here; left out, nothing is held against it. */
  node?: string;
  /** Tables of libraries beside those that are known: a table of a module that is known replaces it. */
  libraries?: readonly Dialect[];
  /** Pending specs will be written: how spec files are written is kept. */
  writesSpecs?: boolean;
  /** Told of each spec file before it is read. */
  onProgress?: (done: number, all: number, path: string) => void;
}

/** The spec files and sources below the given paths. */
export function discover(
  files: Files,
  { root, paths, settings }: AuditRequest,
  problems: Problem[],
): Candidates {
  return findCandidates(files, root, paths, settings, (folder, reason) =>
    problems.push({ file: folder, reason: `folder cannot be read (${reason})` }),
  );
}

/** What all stages share: settings, environments, and the project with its components. */
export async function prepare(
  files: Files,
  { root, paths, settings, only, libraries, writesSpecs = false }: AuditRequest,
  candidates: Candidates,
): Promise<AuditSession> {
  const environments = new Environments(files, settings.run, root);
  const read = [`${root}/package.json`, ...candidates.specs, ...candidates.sources];
  const folders = new Set(read.map((path) => environments.of(path)));
  const usesAngular = [...folders].some((folder) =>
    [folder.manifest, ...folder.outer].some((manifest) => manifest?.dependencies.has('@angular/core')),
  );
  const whole = paths.includes(root);
  let sources = whole ? candidates.sources : undefined;
  const ofRoot = (): readonly string[] =>
    (sources ??= findCandidates(files, root, [root], settings, () => undefined).sources);
  let packages: ReadonlyMap<string, string> | undefined;
  const project = new Project(
    files,
    usesAngular ? await loadAngular() : undefined,
    {
      sources: ofRoot,
      packages: () =>
        (packages ??= workspacePackages(files, root, ofRoot(), (manifest) =>
          textOf(settingAt(environments.setting(manifest), 'name')),
        )),
      leads: (file) => environments.leads(file),
    },
    librariesWith(libraries),
  );
  const taking = takingPart({ only, settings });
  const setups = new Map<string, SetupEffects | undefined>();
  return {
    root,
    files,
    settings,
    writesSpecs,
    project,
    shownProps: new ShownProps(project),
    environments,
    setupOf(file) {
      const { folder, runners, runnersOf, manifest } = environments.of(file);
      const mine = runnersOf(file);
      const key = [folder, ...mine.map((each) => runners.indexOf(each))].join('\0');
      if (!setups.has(key)) {
        const shipped = settingAt(manifest?.setting, 'dependencies');
        const isShipped = (name: string): boolean => settingAt(shipped, name) !== undefined;
        setups.set(key, setupEffects(mine, files, project, isShipped));
      }
      return setups.get(key);
    },
    isOn: (code) => taking.has(code),
    facts: [
      ...new Set([
        SIZES,
        SIGHT,
        GLOBALS,
        ...CHECKS.flatMap(({ code, facts = [] }) => (taking.has(code) ? facts : [])),
      ]),
    ],
  };
}

// The codes that take part: asked for, and not switched off.
function takingPart({ only, settings }: Pick<AuditRequest, 'only' | 'settings'>): Set<string> {
  const isAsked = ({ code, family }: CheckText): boolean =>
    !only || only.some((name) => name === code || name === family);
  const taking = CATALOGUE.filter((text) => isAsked(text) && settings.checks.get(text.code) !== 'off');
  return new Set(taking.map(({ code }) => code));
}
