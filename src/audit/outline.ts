import type { FileContext } from '../checks/questions/context.js';
import { partOf } from '../checks/questions/sight.js';
import { markupOf } from '../checks/questions/element-markup.js';
import { betterQuery } from '../writing/rewrite.js';
import type { RunnerFacts } from '../environment/facts/environment.js';
import type { Files } from '../host/files.js';
import type { Span } from '../finding.js';
import { nameOf } from '../rendering/name.js';
import type { RenderedElement } from '../rendering/rendered-tree.js';
import { roleOf } from '../rendering/role.js';
import { usesInBlock, type Binding, type Block } from '../specs/model/blocks.js';
import { assertionsOf, countRounds, roundsOf } from '../specs/model/rounds.js';
import type { Reach, Step, StepOf } from '../specs/model/steps.js';
import type { Problem } from '../syntax/source.js';
import { relativeTo, isAbsolute } from '../util/paths.js';
import { inShort } from '../util/printable.js';
import { discover, prepare, type AuditRequest } from './prepare.js';
import { type Rung, RUNG_OF } from '../specs/model/rungs.js';
import { outlinedComponent, type OutlinedComponent } from './outline-component.js';
import { shownName } from './shown-name.js';
import type { AuditSession } from './session.js';
import { contextOf } from './spec-file.js';
import { unreadFacts } from './undecided.js';

/** What was understood of one spec file, or of a file with components. Paths are relative to the root, lines count from 1. */
export interface Outline {
  file: string;
  specs: number;
  blocks: OutlinedBlock[];
  /** Names outside of the specs that more than one of them uses, at least one of them changing it. */
  shared: SharedName[];
  /** The components of a file without specs. */
  components: OutlinedComponent[];
  /** The runners that take it, where it has specs. */
  runs: OutlinedRun[];
}

/** How a runner takes a spec file: what is known of it, and why the rest is not. */
export interface OutlinedRun {
  /** Its name and major. */
  runner: string;
  project?: string;
  settings?: string;
  document?: string;
  globals?: boolean;
  setupFiles?: string[];
  unread?: { fact: string; reason: string; file?: string; line?: number };
}

export interface OutlinedBlock {
  kind: 'group' | 'spec' | 'hook' | 'file';
  title: string;
  line: number;
  /** How many groups it stands in. */
  depth: number;
  mark?: string;
  /** Of a spec: how often it acts and then asserts, and how many assertions it makes. */
  size?: { rounds: number; assertions: number };
  steps: OutlinedStep[];
}

export interface OutlinedStep {
  kind: 'arrange' | 'render' | 'reach' | 'act' | 'assert' | 'clean up';
  line: number;
  text: string;
  reach?: OutlinedReach;
}

export interface OutlinedReach {
  rung: Rung;
  found: 'one' | 'likely one' | 'several' | 'nothing' | 'unknown';
  /** Why the element is unknown. */
  why?: string;
  /** `name`: with dots for what can't be told. */
  element?: { file: string; line: number; markup: string; role?: string; name?: string };
  better?: string;
}

export interface SharedName {
  name: string;
  line: number;
  uses: { spec: string; line: number; how: 'reads' | 'changes' }[];
}

/** Reads one spec file or component file, with the components that it renders; a Problem where it can't be read. */
export async function outline(files: Files, request: AuditRequest, path: string): Promise<Outline | Problem> {
  const problems: Problem[] = [];
  const session = await prepare(files, request, discover(files, request, problems));
  const tree = session.project.tree(path);
  if (!tree)
    return (
      session.project.problems.find(({ file }) => file === path) ?? { file: path, reason: 'can’t be read' }
    );
  const context = contextOf(session, tree);
  const { file, source } = context;
  const line = ({ start }: Span): number => source.lines.at(start).line;
  const blocks = inOrder(file.root, 0).map(({ block, depth }) => ({
    kind: block.kind,
    title: block.kind === 'hook' ? (block.hook ?? '').replace('-', ' ') : block.title.text,
    line: line(block.callee),
    depth,
    mark: block.mark,
    size: block.kind === 'spec' ? sizeOf(block) : undefined,
    steps: block.steps.flatMap((step) => outlined(step, context, request.root) ?? []),
  }));
  return {
    file: relativeTo(request.root, path),
    specs: blocks.filter(({ kind }) => kind === 'spec').length,
    blocks: blocks.filter(({ kind, steps }) => kind !== 'file' || steps.length > 0),
    shared: sharedIn(context, line),
    components: blocks.some(({ kind }) => kind === 'spec') ? [] : componentsIn(path, context, request),
    runs: blocks.some(({ kind }) => kind === 'spec')
      ? context.runners.map((runner) => outlinedRun(runner, session, request.root))
      : [],
  };
}

function outlinedRun(
  runner: RunnerFacts,
  { environments, project }: AuditSession,
  root: string,
): OutlinedRun {
  const { document, globals, setupFiles, settingsFile } = runner;
  const unread = unreadFacts(runner, (file) => environments.setting(file));
  const source = unread?.at && project.source(unread.at.file);
  return {
    runner: [runner.runner, runner.major].filter((part) => part !== undefined).join(' '),
    project: runner.project,
    settings: settingsFile === undefined ? undefined : relativeTo(root, settingsFile),
    document: document.known ? (document.value ?? 'none') : undefined,
    globals: globals.known ? globals.value : undefined,
    // As it is written; what `path.join(__dirname, …)` makes, from the folder that is looked at.
    setupFiles: setupFiles.known
      ? setupFiles.value.map(({ text }) => (isAbsolute(text) ? relativeTo(root, text) : text))
      : undefined,
    unread: unread && {
      fact: unread.fact,
      reason: inShort(unread.reason, 160),
      ...(unread.at && source
        ? { file: relativeTo(root, unread.at.file), line: source.lines.at(unread.at.start).line }
        : {}),
    },
  };
}

const componentsIn = (
  path: string,
  { project, modules, testIdAttribute }: FileContext,
  { root }: AuditRequest,
): OutlinedComponent[] =>
  (project.summary(path)?.components ?? []).map((component) =>
    outlinedComponent(component, project, {
      modules,
      testIdAttribute,
      relative: (file) => relativeTo(root, file),
    }),
  );

const sizeOf = (spec: Block): OutlinedBlock['size'] => ({
  rounds: countRounds(roundsOf(spec)),
  assertions: assertionsOf(spec).length,
});

function inOrder(block: Block, depth: number): { block: Block; depth: number }[] {
  const inside = block.kind === 'file' ? depth : depth + 1;
  return [{ block, depth }, ...block.children.flatMap((child) => inOrder(child, inside))];
}

const KINDS: Readonly<Partial<Record<Step['kind'], OutlinedStep['kind']>>> = {
  render: 'render',
  reach: 'reach',
  act: 'act',
  assert: 'assert',
  'stand-in': 'arrange',
  answer: 'arrange',
  clock: 'arrange',
  lasting: 'arrange',
  restore: 'clean up',
  unmount: 'clean up',
};

function outlined(step: Step, context: FileContext, root: string): OutlinedStep | undefined {
  const closes = step.kind === 'lasting' && step.lasting.does === 'close';
  const kind = closes ? 'clean up' : KINDS[step.kind];
  // What is put into the page is an act already.
  if (!kind || (step.kind === 'lasting' && step.lasting.what === 'page' && step.lasting.handle))
    return undefined;
  const { text, lines } = context.source;
  return {
    kind,
    line: lines.at(step.place.start).line,
    text: inShort(text.slice(step.place.start, step.place.end), 100),
    reach: step.kind === 'reach' ? reachOf(step, context, root) : undefined,
  };
}

const FOUND = { many: 'several', none: 'nothing' } as const;

function reachOf({ reach }: StepOf<'reach'>, context: FileContext, root: string): OutlinedReach {
  const target = context.rendering.target(reach);
  const rung = RUNG_OF[reach.by];
  if (target.kind === 'unknown') {
    const part = partOf(reach, target.why, context.rendering);
    return { rung, found: 'unknown', why: part === undefined ? target.why : `${target.why}: ${part}` };
  }
  if (target.kind !== 'one') return { rung, found: FOUND[target.kind] };
  return {
    rung,
    found: target.proven ? 'one' : 'likely one',
    element: elementOf(target.element, reach, context, root),
    better: betterFor(reach, target.element, context),
  };
}

// A role with a name is the best there is: nothing is better than that.
const betterFor = (reach: Reach, element: RenderedElement, context: FileContext): string | undefined =>
  reach.by === 'role' && reach.args.length > 1
    ? undefined
    : differing(reach, betterQuery(reach, element, context)?.query, context);

function differing(
  { place, by }: Reach,
  query: string | undefined,
  { source }: FileContext,
): string | undefined {
  const isSame = query === source.text.slice(place.start, place.end);
  return isSame ||
    (by === 'text' && query?.includes('ByText')) ||
    (by === 'label' && query?.includes('ByLabel'))
    ? undefined
    : query;
}

function elementOf(
  element: RenderedElement,
  reach: Reach,
  { rendering, project }: FileContext,
  root: string,
): OutlinedReach['element'] {
  const scope = rendering.scope(reach);
  const name = scope && nameOf(element, scope.tree);
  const line = project.source(element.file)?.lines.at(element.place.start).line ?? 0;
  return {
    file: relativeTo(root, element.file),
    line,
    markup: markupOf(element),
    role: roleOf(element) ?? undefined,
    name: name ? shownName(name) : '…',
  };
}

function sharedIn({ file }: FileContext, line: (span: Span) => number): SharedName[] {
  return file.bindings.flatMap((binding): SharedName[] => {
    const uses = usesOf(binding, file.blocks, line);
    const specs = new Set(uses.map(({ block }) => block));
    const changes = uses.some(({ how }) => how === 'changes');
    if (specs.size < 2 || !changes || binding.kind === 'import') return [];
    return [
      {
        name: binding.name,
        line: line(binding.place),
        uses: uses.map(({ block, how, line: at }) => ({ spec: block.title.text, line: at, how })),
      },
    ];
  });
}

// The first read and the first change by each spec.
function usesOf(
  binding: Binding,
  blocks: readonly Block[],
  line: (span: Span) => number,
): { block: Block; how: 'reads' | 'changes'; line: number }[] {
  return blocks
    .filter(({ kind }) => kind === 'spec')
    .flatMap((block) => {
      const uses = usesInBlock(block, binding).map((step) => ({
        block,
        how: changes(step) ? ('changes' as const) : ('reads' as const),
        line: line(step.place),
      }));
      return (['changes', 'reads'] as const).flatMap((how) => uses.find((use) => use.how === how) ?? []);
    });
}

function changes({ use }: StepOf<'use'>): boolean {
  const { writes } = use.effect ?? { writes: new Set<string>() };
  return use.how === 'assign' || use.how === 'write' || writes === 'all' || writes.size > 0;
}
