import { isBuiltin } from 'node:module';
import { declares } from '../../environment/facts/environment.js';
import type { Component } from '../../components/view.js';
import type { Span } from '../../finding.js';
import { modulesUsed } from '../../project/modules-used.js';
import type { Project } from '../../project/project.js';
import type { RenderedNode } from '../../rendering/rendered-tree.js';
import type { SpecRendering } from '../../rendering/spec-rendering.js';
import type { Blur } from '../../rendering/target.js';
import { isOff } from '../../specs/model/blocks.js';
import type { Reach } from '../../specs/model/steps.js';
import { basename, dirname, isWithin, packageOf } from '../../util/paths.js';
import { fileFact, type FileContext, type SpecFileFacts } from './context.js';
import { runningBlocks } from './order.js';

/** What of a spec file could not be seen. */
export type Hidden =
  /** An import that leads to no file and to no declared package; `names`: what is taken from there. */
  | { what: 'import'; name: string; names: readonly string[]; place: Span; called: boolean }
  /** A render whose component is not told. */
  | { what: 'render'; name: string; place: Span }
  /** A call that is handed a component, of a function that no table knows and that can't be read; `module`: where it comes from. */
  | { what: 'call'; name: string; module: string | undefined; place: Span }
  /** A query whose element can't be told; `part`: what of the render can't be read. */
  | { what: 'element'; name: string; why: Blur; part: string | undefined; place: Span };

/** How much of a spec file is in sight. */
interface FileSight {
  reaches: number;
  renders: number;
  /** It imports modules by a pattern of paths. */
  byPattern: boolean;
  hidden: readonly Hidden[];
}

/** What a spec file asks for, and what of it can't be seen. */
export const SIGHT = fileFact('sight', sightOf);

// What a bundler makes something of that is no module of the project.
const ASSET =
  /\.(?:css|s[ac]ss|less|styl|svg|png|jpe?g|gif|webp|avif|ico|woff2?|json|md|mdx|html|txt|ya?ml|wasm)(?:\?.*)?$/i;
const VIRTUAL = /^(?:virtual:|node:|https?:|data:|\0)/;

function sightOf(context: FileContext): FileSight {
  const { file, rendering } = context;
  const reaches = file.reaches.filter(({ block }) => !isOff(block));
  const renders = file.renders.filter(({ block }) => !isOff(block));
  const elements = reaches.flatMap((reach): Hidden[] => {
    const target = rendering.target(reach);
    if (target.kind !== 'unknown') return [];
    const { name, place } = reach;
    return [{ what: 'element', name, why: target.why, part: partOf(reach, target.why, rendering), place }];
  });
  const unread = renders.flatMap(({ view, name, place }): Hidden[] =>
    view === undefined ? [{ what: 'render', name, place }] : [],
  );
  return {
    reaches: reaches.length,
    renders: renders.length,
    byPattern: file.importsByPattern,
    hidden: [...leadNowhere(context), ...unread, ...callsWithComponents(context), ...elements],
  };
}

/** The first part of what a query looks through that can't be read. */
export function partOf(reach: Reach, why: Blur, rendering: SpecRendering): string | undefined {
  const tree = why === 'a part that can’t be read' ? rendering.scope(reach)?.tree : undefined;
  return tree && firstHole(tree.children);
}

function firstHole(nodes: readonly RenderedNode[]): string | undefined {
  for (const node of nodes) {
    const why =
      node.kind === 'hole' ? node.why : node.kind === 'element' ? firstHole(node.children) : undefined;
    if (why !== undefined) return why;
  }
  return undefined;
}

function leadNowhere({ file, project, environment }: FileContext): Hidden[] {
  const called = new Set(
    file.blocks.flatMap(({ steps }) =>
      steps.flatMap((step) => (step.kind === 'unknown-call' ? [step.name.split('.')[0] ?? ''] : [])),
    ),
  );
  const isKnown = (specifier: string): boolean =>
    isBuiltin(specifier) ||
    VIRTUAL.test(specifier) ||
    ASSET.test(specifier) ||
    project.libraries.of(specifier) !== undefined ||
    project.resolve(file.path, specifier) !== undefined ||
    (!specifier.startsWith('.') &&
      (declares(environment, packageOf(specifier)) ||
        environment.installedAt(packageOf(specifier)) !== undefined));
  const seen = new Set<string>();
  return [...file.imports].flatMap(([local, { specifier, typeOnly, start, end }]): Hidden[] => {
    if (typeOnly || seen.has(specifier) || isKnown(specifier)) return [];
    const taken = [...file.imports].filter(([, each]) => each.specifier === specifier);
    const names = taken.map(([name]) => name);
    seen.add(specifier);
    return [
      {
        what: 'import',
        name: specifier,
        names: taken.map(([, each]) => each.name),
        place: { start, end },
        called: [local, ...names].some((name) => called.has(name)),
      },
    ];
  });
}

const callsWithComponents = ({ file }: FileContext): Hidden[] =>
  runningBlocks(file).flatMap(({ steps }) =>
    steps.flatMap((step): Hidden[] =>
      step.kind === 'unknown-call' && step.shows
        ? [{ what: 'call', name: step.name, module: step.module, place: step.place }]
        : [],
    ),
  );

/**
 * Tells of a component whether every spec file that may reach it was seen: that nobody renders it, acts on it or gives it
 * something may only be said where it was. `unread`: scripts that could not be read, which may do so to what lies around.
 */
export function wholeSight(
  project: Project,
  specFiles: readonly SpecFileFacts[],
  unread: readonly string[],
): (component: Pick<Component, 'file' | 'name'>) => boolean {
  const blind = specFiles.filter((file) =>
    file.get(SIGHT).hidden.some(({ what }) => what === 'render' || what === 'call'),
  );
  const blurred = modulesUsed(
    project,
    blind.map(({ path }) => path),
  );
  const lost = specFiles.flatMap((file) =>
    file.get(SIGHT).hidden.flatMap((each) => (each.what === 'import' ? [each.name, ...each.names] : [])),
  );
  // Where nothing is seen to be rendered, a helper that is out of sight may render anything.
  const darkened = specFiles
    .filter((file) => {
      const { byPattern, renders, reaches, hidden } = file.get(SIGHT);
      const callsLost = hidden.some((each) => each.what === 'import' && each.called);
      const shows = reaches > 0 || hidden.some(({ what }) => what === 'call');
      return byPattern || (callsLost && renders === 0 && shows);
    })
    .map((file) => file.package);
  const stems = new Set(lost.map(stem));
  const broken = unread.map((path) => dirname(path).replace(/\/(?:__tests__|tests?|specs?)$/, ''));
  return ({ file, name }) =>
    !broken.some((folder) => isWithin(folder, file)) &&
    !blurred.has(file) &&
    !darkened.some((folder) => isWithin(folder, file)) &&
    ![stem(file), stem(dirname(file)), name.toLowerCase(), 'index'].some((each) => stems.has(each));
}

// The last part of a path, without an ending: an import that leads nowhere may be a component by its file or folder.
const stem = (path: string): string =>
  basename(path)
    .replace(/\.[^.]*$/, '')
    .toLowerCase();
