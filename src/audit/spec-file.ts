import type { FileContext, Found, SpecFileFacts } from '../checks/check.js';
import { CHECKS } from '../checks/index.js';
import { declares, type Environment } from '../environment/environment.js';
import { dialectOf, isUserCentred } from '../dialects/index.js';
import { runners } from '../dialects/runners.js';
import type { Component } from '../model/components/view.js';
import { Links } from '../model/links/links.js';
import type { ModuleTree } from '../model/project.js';
import { specsOf, type SpecFile } from '../model/specs/blocks.js';
import type { Reach } from '../model/specs/steps.js';
import { readSpecFile } from '../model/specs/suite.js';
import type { Rung } from './report.js';
import type { Stage } from './stage.js';

/** What one spec file gives to the report. */
export interface CheckedSpecFile {
  facts: SpecFileFacts;
  found: { code: string; found: Found }[];
  reach: Map<Rung, number>;
  comments: SpecFile['comments'];
}

/** Reads and checks one spec file; its syntax tree is let go afterwards. */
export function checkSpecFile(stage: Stage, tree: ModuleTree): CheckedSpecFile {
  const { project, settings } = stage;
  const file = readSpecFile(project, tree, settings.helpers);
  const environment = stage.environments.of(file.path);
  const links = new Links(project, file, settings.testIdAttribute);
  const context: FileContext = {
    file,
    source: tree.script.source,
    project,
    links,
    environment,
    setup: stage.setupOf(environment),
    userCentred:
      usesUserCentred(file) ||
      [environment.manifest, ...environment.outer].some((each) =>
        [...(each?.dependencies.keys() ?? [])].some(isUserCentred),
      ),
    testIdAttribute: settings.testIdAttribute,
  };
  const found = CHECKS.flatMap((check) =>
    check.scope === 'file' && stage.isOn(check.code)
      ? check.run(context).map((each) => ({ code: check.code, found: each }))
      : [],
  );
  return {
    facts: factsOf(file, stage, environment),
    found,
    reach: reachCounts(file),
    comments: file.comments,
  };
}

const usesUserCentred = (file: SpecFile): boolean =>
  [...file.imports.values()].some(({ specifier }) => isUserCentred(specifier));

function factsOf(file: SpecFile, stage: Stage, environment: Environment): SpecFileFacts {
  const { project } = stage;
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
    importsByPattern: file.importsByPattern,
    unresolved: [...new Set(modules)].filter((each) => isUnresolved(each, file.path, stage, environment)),
    runnerModules: modules.filter(
      (each) => dialectOf(each) && runners.includes(dialectOf(each) ?? runners[0]!),
    ),
    renders: file.renders.length,
  };
}

function isUnresolved(
  specifier: string,
  file: string,
  { project }: Stage,
  environment: Environment,
): boolean {
  if (specifier.startsWith('node:') || dialectOf(specifier) || project.resolve(file, specifier)) return false;
  const parts = specifier.split('/');
  return !declares(environment, parts.slice(0, specifier.startsWith('@') ? 2 : 1).join('/'));
}

const RUNG_OF: Readonly<Record<Reach['by'], Rung>> = {
  role: 'role',
  label: 'label',
  text: 'text',
  placeholder: 'text',
  value: 'text',
  alt: 'alternative',
  title: 'alternative',
  testId: 'testId',
  selector: 'structure',
  component: 'structure',
  hop: 'structure',
  id: 'structure',
  class: 'structure',
  tag: 'structure',
};

function reachCounts(file: SpecFile): Map<Rung, number> {
  const counts = new Map<Rung, number>();
  const add = (rung: Rung, by = 1): unknown => counts.set(rung, (counts.get(rung) ?? 0) + by);
  for (const reach of file.reaches) if (reach.position === undefined) add(RUNG_OF[reach.by]);
  add('internals', file.internals);
  return counts;
}
