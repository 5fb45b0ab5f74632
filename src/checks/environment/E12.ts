import semver from 'semver';
import { manifestsOf, type Environment } from '../../environment/facts/environment.js';
import { DEPENDENCY_KINDS, type Manifest } from '../../environment/settings/manifest.js';
import { statedNode } from '../../environment/node-version.js';
import { PEER_ROWS } from '../../environment/tables/peer-ranges.js';
import { RUNNERS } from '../../environment/tables/runners.js';
import { settingAt, textOf } from '../../environment/settings/setting.js';
import { majorOf, type PackageVersion } from '../../environment/versions.js';
import { join } from '../../util/paths.js';
import type { Place, Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';

const message = (name: string, major: number, peer: string, range: string, asks: string): string =>
  `${name} ${major} asks for ${peer} ${asks}, and ${range} is what this project takes.`;
const advice = (name: string, asks: string, peer: string): string =>
  `Take ${peer} ${asks}, or a major of ${name} that asks for yours.`;
const messageNode = (name: string, asks: string, text: string): string =>
  `${name} asks for Node ${asks}, and ${text} is what this project runs on.`;
const messageRunning = (name: string, asks: string, node: string): string =>
  `${name} asks for Node ${asks}, and ${node} is what runs here.`;
const adviceNode = (name: string): string =>
  `Take a Node that it asks for, or a major of ${name} that runs on yours.`;
const messageTwo = (name: string, versions: readonly string[]): string =>
  `The lock file has ${name} twice, ${versions.join(' and ')}: what one copy makes, the other does not know.`;
const adviceTwo = (name: string): string =>
  `Keep one copy: npm dedupe, or one range of ${name} for all packages.`;

/** Packages of one tool chain whose majors do not go together, by the peer ranges that they publish. */
export const E12: ProjectCheck = {
  code: 'E12',
  family: 'environment',
  scope: 'project',
  title: 'Versions that do not belong together',
  level: 'risk',
  why: 'They install, with a warning that nobody reads, and fail in ways that point elsewhere.',
  certain: 'Sure where both versions are known; that two copies of one package meet is likely.',
  trouble: '"react": "^19.0.0", "@testing-library/react": "^13.4.0"',
  mended: '"react": "^19.0.0", "@testing-library/react": "^16.1.0"',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment }) => [
        ...unmet(environment, context),
        ...twice(environment, context),
        ...onOtherNode(environment, context),
      ]),
    ),
};

function unmet(environment: Environment, context: ProjectContext): Finding[] {
  return PEER_ROWS.flatMap(([name, major, peer, ...ranges]): Finding[] => {
    const version = context.versionOf(environment, name);
    if (!version || majorOf(version) !== major) return [];
    const other = context.versionOf(environment, peer);
    if (!other || ranges.some((range) => mayMeet(other, range))) return [];
    const asks = ranges.at(-1) ?? '';
    const place = placeOf(version.manifest, name);
    if (!place) return [];
    return [
      {
        place,
        certainty: 'sure',
        message: message(name, major, peer, other.exact ?? other.range, asks),
        advice: advice(name, asks, peer),
        evidence: [{ ...(placeOf(other.manifest, peer) ?? place), note: `${peer} is asked for here` }],
      },
    ];
  });
}

// Tags, links and ranges that can't be read may be anything.
function mayMeet({ range, exact }: PackageVersion, asked: string): boolean {
  if (exact !== undefined && semver.valid(exact))
    return semver.satisfies(exact, asked, { includePrerelease: true });
  return semver.validRange(range) === null || semver.intersects(range, asked, { includePrerelease: true });
}

function placeOf({ setting }: Manifest, name: string): Place | undefined {
  return DEPENDENCY_KINDS.map((kind) => settingAt(setting, kind, name)?.at).find(
    (each) => each !== undefined,
  );
}

const TOOLS = [...RUNNERS.flatMap(({ packages }) => packages), 'jsdom', 'happy-dom', 'vite', '@angular/cli'];

// What runs the specs says which Node it needs, where it is installed or locked.
function onOtherNode(environment: Environment, context: ProjectContext): Finding[] {
  const node = statedNode(environment, (file) => context.project.optionalSource(file)?.text);
  if (!node) return onRunningNode(environment, context);
  return refusing((asks) => semver.intersects(node.range, asks), environment, context).map(
    ({ name, asks }) => ({
      place: node.at,
      certainty: 'sure',
      message: messageNode(name, asks, node.text),
      advice: adviceNode(name),
    }),
  );
}

// What is installed here will run here, by the Node that audits it, where the project names no other.
function onRunningNode(environment: Environment, context: ProjectContext): Finding[] {
  const { node } = context;
  if (node === undefined) return [];
  return refusing((asks) => semver.satisfies(node, asks), environment, context).flatMap(
    ({ name, asks }): Finding[] => {
      const manifest = manifestsOf(environment).find(({ dependencies }) => dependencies.has(name));
      const place = manifest && placeOf(manifest, name);
      if (!place || environment.installedAt(name) === undefined) return [];
      const message = messageRunning(name, asks, node);
      return [{ place, certainty: 'likely', message, advice: adviceNode(name) }];
    },
  );
}

// The tools that ask for another Node than one that meets what it is asked.
const refusing = (
  meets: (asks: string) => boolean,
  environment: Environment,
  context: ProjectContext,
): { name: string; asks: string }[] =>
  TOOLS.flatMap((name) => {
    const asks = asksForNode(name, environment, context);
    return asks === undefined || semver.validRange(asks) === null || meets(asks) ? [] : [{ name, asks }];
  });

function asksForNode(
  name: string,
  environment: Environment,
  { setting, files }: ProjectContext,
): string | undefined {
  const installed = environment.installedAt(name);
  if (installed !== undefined)
    return textOf(settingAt(setting(join(installed, 'package.json')), 'engines', 'node'));
  const lock = manifestsOf(environment)
    .map(({ folder }) => join(folder, 'package-lock.json'))
    .find((file) => files.kind(file) === 'file');
  const locked = lock === undefined ? undefined : setting(lock);
  return textOf(settingAt(locked, 'packages', `node_modules/${name}`, 'engines', 'node'));
}

const FRAMEWORKS = ['react', 'vue', '@angular/core'];

// package-lock.json, versions 2 and 3 of its format: a second copy stands below the package that brings it.
function twice(environment: Environment, context: ProjectContext): Finding[] {
  for (const { folder } of manifestsOf(environment)) {
    const file = `${folder}/package-lock.json`;
    if (context.files.kind(file) !== 'file') continue;
    const packages = settingAt(context.setting(file), 'packages');
    if (packages?.is !== 'object') return [];
    return FRAMEWORKS.flatMap((name): Finding[] => {
      const copies = [...packages.entries].filter(
        ([path]) => path === `node_modules/${name}` || path.endsWith(`/node_modules/${name}`),
      );
      const versions = new Set(copies.map(([, each]) => textOf(settingAt(each, 'version'))));
      const [, second] = copies;
      if (versions.size < 2 || versions.has(undefined) || !second) return [];
      const shown = [...versions].filter((version) => version !== undefined);
      return [
        {
          place: second[1].at,
          certainty: 'likely',
          message: messageTwo(name, shown),
          advice: adviceTwo(name),
        },
      ];
    });
  }
  return [];
}
