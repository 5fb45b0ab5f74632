import { changeBy } from '../libraries/changes.js';
import { oneOf, SOMETHING, UNKNOWN, type Expr } from '../components/expr.js';
import { withoutFunctions } from '../components/expr-filling.js';
import { looseTags, tagPlaces, type LooseTag } from '../components/frameworks/react/loose-tags.js';
import {
  componentNodes,
  innerNodes,
  NO_CLONES,
  viewsGiven,
  type Clones,
  type Component,
  type ComponentNode,
  type ComponentRef,
  type ViewNode,
} from '../components/view.js';
import type { Project } from '../project/project.js';
import { exprOfValue, viewOfValue } from '../specs/reader/spec-scope.js';
import { isOff, type SpecFile } from '../specs/model/blocks.js';
import { grouped } from '../util/grouped.js';
import { stands } from '../specs/model/rounds.js';
import type { Render, Step } from '../specs/model/steps.js';
import type { Value } from '../specs/model/values.js';
import type { SpecRendering } from './spec-rendering.js';
import type { Contexts, RenderedTree, RenderedUse } from './rendered-tree.js';
import type { ShownProps } from './shown-props.js';

/** One way in which a spec renders a component. */
export interface ComponentUse {
  component: Component;
  /** What it is given, by prop; what is not in it is not given, unless `open`. */
  given: ReadonlyMap<string, Expr>;
  /** It may be given more than can be read. */
  open: boolean;
  /** What contexts give where it stands, if that is known. */
  contexts?: Contexts;
  /** The file of the component that renders it; none where a spec does. */
  by?: string;
  /** Its places in markup, where they are known. */
  nodes?: readonly ComponentNode[];
  /** Some module renders it in a way that is not seen: which specs do so can't be told. */
  unseen?: true;
  /** A stand-in is rendered in its place: nothing of it runs. */
  stubbed?: true;
}

const MOST_WAYS = 24;

/** All that the specs of a file give to components: in their own renders, in later changes, and in children. */
export function componentUsesIn(
  file: SpecFile,
  rendering: SpecRendering,
  project: Project,
  shownProps: ShownProps,
): ComponentUse[] {
  const renders = file.renders.filter(({ block }) => !isOff(block));
  // Renders that are alike share one tree.
  const trees = new Set(renders.map((render) => rendering.tree(render)));
  const changes = file.blocks.flatMap((block) => (isOff(block) ? [] : block.steps.flatMap(changeOf)));
  for (const render of renders) for (const tree of treesApart(render, rendering, project)) trees.add(tree);
  for (const { render, view, path } of changes)
    if (view) trees.add(rendering.treeOf(view, { ...render, file: path }));
  const found = [...trees].flatMap((tree) => tree.uses.map((use) => placedUse(use, shownProps)));
  found.push(...usesBelow([...trees], project));
  const inSpecs = renders.flatMap((render) => [
    ...(render.view ?? []).flatMap((node) =>
      written(node, render.file, project, isRoot(render, node) ? render : undefined),
    ),
  ]);
  const around = contextsIn(renders, trees, rendering);
  found.push(...inSpecs.map((use) => ({ ...use, contexts: use.nodes?.[0] && around.get(use.nodes[0]) })));
  for (const change of changes) found.push(...changed(change, file, project));
  // What a component of the spec file renders, the spec does.
  const own = found.map((use) => (use.by === file.path ? { ...use, by: undefined } : use));
  return unlike([...own, ...looseIn(file, own, project)]);
}

// What contexts give to the components in the markup of specs.
function contextsIn(
  renders: readonly Render[],
  trees: ReadonlySet<RenderedTree>,
  rendering: SpecRendering,
): Map<ComponentNode, Contexts> {
  const found = new Map([...trees].flatMap(({ expanded }) => [...expanded]));
  for (const render of renders) {
    const [node, ...more] = render.view ?? [];
    // Of renders that are alike, only one was filled in: the contexts are the same.
    const [alike] = rendering.tree(render).expanded.values();
    if (node?.kind === 'component' && more.length === 0 && !found.has(node) && alike) found.set(node, alike);
  }
  return found;
}

// What stands in JSX of a spec file that no render is seen to take: in functions that are handed over, or not read.
function looseIn(
  { path, blocks }: SpecFile,
  uses: readonly ComponentUse[],
  project: Project,
): ComponentUse[] {
  const tree = project.tree(path);
  if (!tree) return [];
  const own = uses.filter(({ by }) => by === undefined);
  const components = project.summary(path)?.components ?? [];
  const seen = new Set([
    ...own.flatMap(({ nodes = [] }) => nodes.map(({ place }) => place.start)),
    ...components.flatMap(({ view }) => tagPlaces(view)),
  ]);
  const off = blocks.filter(isOff);
  return looseTags(tree.script, tree.facts, seen)
    .filter((tag) => !off.some(({ place }) => stands(tag, place)))
    .flatMap((tag) => useOfTag(tag, path, project) ?? []);
}

/** The use that a tag in the JSX of a file is, of which not more is known than what is written there. */
export function useOfTag(
  { ref, given, open, within }: LooseTag,
  file: string,
  project: Project,
): ComponentUse | undefined {
  const component = componentBehind(ref, file, project);
  if (!component) return undefined;
  const use = { component, given: new Map([...given].map((name) => [name, UNKNOWN])), open };
  const clones = within && componentBehind(within, file, project)?.clones;
  return clones ? withClones(use, clones) : use;
}

// What stands in markup of a spec whose surroundings can't be read is rendered all the same, or is left out by them.
function* treesApart(render: Render, rendering: SpecRendering, project: Project): Generator<RenderedTree> {
  const whole = rendering.tree(render);
  if (render.shallow || whole.complete) return;
  const expanded = new Set(whole.expanded.keys());
  for (const node of componentNodes(render.view ?? [])) {
    if (expanded.has(node) || !componentOf(node, render.file, project)) continue;
    const tree = rendering.treeOf([node], { ...render, wrapper: 'unknown' });
    for (const each of tree.expanded.keys()) expanded.add(each);
    yield tree;
  }
}

const insideKnown = new WeakMap<Component, readonly Component[]>();

// The components in a component's own markup; each worked out once.
function insideOf(component: Component, project: Project): readonly Component[] {
  const known = insideKnown.get(component) ?? [...componentsInside([component], project)];
  insideKnown.set(component, known);
  return known;
}

// What stands below the depth to which trees are filled in is given what nobody knows.
function usesBelow(trees: readonly RenderedTree[], project: Project): ComponentUse[] {
  const found = new Set<Component>();
  let cut = trees.flatMap(({ uses }) => uses.flatMap((use) => (use.cut ? use.component : [])));
  while (cut.length > 0) {
    cut = [...new Set(cut.flatMap((each) => insideOf(each, project)))].filter((each) => !found.has(each));
    for (const each of cut) found.add(each);
  }
  return [...found].map((component) => ({ component, given: new Map(), open: true, by: component.file }));
}

// Trees are shared by renders that differ in values that don't show: of these, nothing is known.
function placedUse(
  { component, node, given, open, contexts, by, stubbed }: RenderedUse,
  shownProps: ShownProps,
): ComponentUse {
  const how = shownProps.of(node, by);
  const known = new Map<string, Expr>();
  for (const [name, prop] of given)
    known.set(
      name,
      how(name) !== 'value' ? UNKNOWN : 'expr' in prop ? withoutFunctions(prop.expr) : asChildren(prop.view),
    );
  return { component, given: known, open, contexts: settled(contexts), by, nodes: [node], stubbed };
}

const SETTLED = new WeakMap<Contexts, Contexts>();

function settled(contexts: Contexts): Contexts {
  const known = SETTLED.get(contexts);
  if (known) return known;
  const provided = new Map(
    [...contexts.provided].map(([key, value]) => [key, value && withoutFunctions(value)]),
  );
  const made = { ...contexts, provided };
  SETTLED.set(contexts, made);
  return made;
}

/** Uses that differ: most specs give the same. */
export function unlike(uses: readonly ComponentUse[]): ComponentUse[] {
  const found: ComponentUse[] = [];
  for (const own of grouped(uses, ({ component }) => component).values()) {
    const known = new Map<string, ComponentUse>();
    for (const use of own) {
      const key = `${use.by} ${use.open} ${use.unseen} ${contextsText(use)} ${JSON.stringify([...use.given])}`;
      const same = known.get(key);
      const nodes = same?.nodes && use.nodes ? union(same.nodes, use.nodes) : (same?.nodes ?? use.nodes);
      known.set(key, nodes === use.nodes ? use : { ...use, nodes });
    }
    found.push(...known.values());
  }
  return found;
}

const textOf = new WeakMap<Contexts, string>();

// Many uses stand in the same contexts.
function contextsText({ contexts }: ComponentUse): string {
  if (!contexts) return '';
  const text = textOf.get(contexts) ?? `${contexts.open} ${JSON.stringify([...contexts.provided])}`;
  textOf.set(contexts, text);
  return text;
}

const union = <T>(one: readonly T[], other: readonly T[]): readonly T[] =>
  other.every((each) => one.includes(each)) ? one : [...new Set([...one, ...other])];

const isRoot = ({ view }: Render, node: ViewNode): boolean => node.kind === 'component' && view?.[0] === node;

/** Uses by the components in markup, as it is written; what others clone may be given more. */
export function written(
  node: ViewNode,
  file: string,
  project: Project,
  root?: Render,
  cloned: Clones = NO_CLONES,
): ComponentUse[] {
  // Only what is handed over itself is cloned, and nothing that stands in it.
  const own = node.kind === 'component' ? componentOf(node, file, project)?.clones : undefined;
  const isPassed = node.kind === 'component' || node.kind === 'element';
  const clones = isPassed ? (own ?? NO_CLONES) : cloned;
  const inside = [...innerNodes(node), ...viewsGiven(node)].flatMap((each) =>
    written(each, file, project, undefined, clones),
  );
  if (node.kind !== 'component') return inside;
  return [...usesOf(node, file, project, root).map((use) => withClones(use, cloned)), ...inside];
}

// What it is given by those that clone it, nobody knows.
function withClones(use: ComponentUse, cloned: Clones): ComponentUse {
  if (cloned === 'any') return { ...use, open: true };
  if (cloned.size === 0) return use;
  return { ...use, given: new Map([...use.given, ...[...cloned].map((name) => [name, UNKNOWN] as const)]) };
}

/** What children are as a value: surely something, where an element or a text is among them. */
const asChildren = (view: readonly ViewNode[]): Expr =>
  view.some(({ kind }) => kind === 'element' || kind === 'component' || kind === 'repeat') ||
  view.some((node) => node.kind === 'text' && node.text.is === 'constant')
    ? SOMETHING
    : UNKNOWN;

function usesOf(node: ComponentNode, file: string, project: Project, root?: Render): ComponentUse[] {
  const component = componentOf(node, file, project);
  if (!component) return [];
  const given = new Map<string, Expr>();
  for (const [name, prop] of [...node.props, ...(root?.props ?? [])])
    given.set(name, 'expr' in prop ? prop.expr : SOMETHING);
  for (const [name, view] of node.slots) given.set(name, asChildren(view));
  const isFixture = root?.gives === 'fixture';
  const isHole = root?.view?.some(({ kind }) => kind === 'hole') ?? false;
  // A fixture is told its inputs one by one: all of them are known.
  const open = (node.open && !isFixture) || node.rest !== undefined || isHole;
  return [{ component, given: isFixture ? orNotGiven(given, component) : given, open, nodes: [node] }];
}

// What one spec sets on a fixture, another may leave as it is.
function orNotGiven(given: ReadonlyMap<string, Expr>, component: Component): Map<string, Expr> {
  const none = { component, given: new Map<string, Expr>(), open: false };
  return new Map([...given].map(([name, expr]) => [name, oneOf([givenIn(none, name), expr])]));
}

const componentOf = (node: ComponentNode, file: string, project: Project): Component | undefined =>
  node.ref && componentBehind(node.ref, file, project);

// The component of the project that a reference in a file stands for.
const componentBehind = (ref: ComponentRef, file: string, project: Project): Component | undefined =>
  innermost(project.component(file, ref), project);

/** The component behind those that only wrap it. */
export function innermost(component: Component | undefined, project: Project): Component | undefined {
  let inner = component;
  for (let step = 0; inner?.wraps && step < 4; step++) inner = project.component(inner.file, inner.wraps);
  return inner;
}

/**
 * A use for each combination of the values that some of its props are set to, one after another, and of the items of
 * `lists`, each put first; with too many of them, these props are unknown.
 */
export function eachWay(
  use: ComponentUse,
  names: Iterable<string>,
  lists: ReadonlySet<string> = new Set(),
): ComponentUse[] {
  let ways: ReadonlyMap<string, Expr>[] = [use.given];
  const several = [...new Set(names)].flatMap((name) => {
    const options = waysOf(use.given.get(name), lists.has(name));
    return options.length > 1 ? [{ name, options }] : [];
  });
  for (const { name, options } of several) {
    if (ways.length * options.length > MOST_WAYS) {
      const unknown = several.map((each) => [each.name, UNKNOWN] as const);
      return [{ ...use, given: new Map([...use.given, ...unknown]) }];
    }
    ways = ways.flatMap((given) => options.map((option) => new Map(given).set(name, option)));
  }
  return ways.map((given) => ({ ...use, given }));
}

// The values that a prop is set to; conditions ask of the first item of a list, so each item stands there once.
function waysOf(expr: Expr | undefined, byItem: boolean): readonly Expr[] {
  if (expr?.is === 'choice') return expr.options.flatMap((option) => waysOf(option, byItem));
  if (expr?.is !== 'list' || expr.items.length < 2 || !byItem) return expr ? [expr] : [];
  const { items } = expr;
  return items.map((item, i) => ({ ...expr, items: [item, ...items.filter((_, at) => at !== i)] }));
}

/** What a render is changed to later: other markup, with the file that it stands in, or other props. */
interface Change {
  render: Render;
  first: Value;
  view?: readonly ViewNode[];
  path: string;
}

// `rerender(<KilnLid temp={20} />)`, `setProps({ temp: 20 })`
function changeOf(step: Step): Change[] {
  if (step.kind !== 'act' || step.by !== 'program' || !step.render) return [];
  const { render, name, args } = step;
  const [first] = args;
  const change = changeBy(name, args.length);
  if (!first || !change || change === 'tells') return [];
  if (first.is === 'jsx') return [{ render, first, view: viewOfValue(first), path: first.tree.path }];
  return [{ render, first, path: render.file }];
}

function changed({ render, first, view, path }: Change, file: SpecFile, project: Project): ComponentUse[] {
  if (view) return view.flatMap((each) => written(each, path, project));
  const [node] = render.view ?? [];
  const component = node?.kind === 'component' ? componentOf(node, render.file, project) : undefined;
  if (!component) return [];
  if (first.is !== 'object') return [{ component, given: new Map(), open: true }];
  const given = new Map<string, Expr>();
  for (const [prop, value] of render.props) given.set(prop, 'expr' in value ? value.expr : SOMETHING);
  // What is set at another time may be set already.
  for (const prop of setOn(render, file)) given.set(prop, UNKNOWN);
  for (const [prop, value] of first.entries) given.set(prop, exprOfValue(value));
  return [{ component, given, open: first.open || (node?.kind === 'component' && node.open) }];
}

const setOn = ({ props, heldBy }: Render, file: SpecFile): string[] =>
  file.blocks.flatMap(({ steps }) =>
    steps.flatMap((step) => {
      if (step.kind !== 'act' || step.by !== 'program' || !step.render) return [];
      const isSame = step.render.props === props || (heldBy !== undefined && step.render.heldBy === heldBy);
      const [first] = step.args;
      return isSame && first?.is === 'object' ? [...first.entries.keys()] : [];
    }),
  );

/** The components that stand in the markup of some others. */
export function componentsInside(components: readonly Component[], project: Project): Set<Component> {
  const inside = components.flatMap(({ view, file, wraps }) => {
    const inner = wraps && project.component(file, wraps);
    return [...(inner ? [inner] : []), ...view.flatMap((node) => [...componentsOf(node, file, project)])];
  });
  return new Set(inside);
}

/** The components of a node and of all that stands in it, markup that is handed over in props included. */
export function* componentsOf(node: ViewNode, file: string, project: Project): Generator<Component> {
  for (const each of componentNodes([node])) {
    const component = componentOf(each, file, project);
    if (component) yield component;
  }
}

/** What a component reads for a prop in one use; `raw`: before a default stands in. */
export function givenIn({ component, given, open }: ComponentUse, name: string, raw = false): Expr {
  const own = given.get(name);
  if (own) return own;
  if (open) return UNKNOWN;
  const { props, defaulted, domains, framework } = component;
  const fallback = defaulted?.has(name) ? undefined : props.get(name);
  if (fallback && !raw) return fallback.is === 'prop' ? UNKNOWN : fallback;
  const domain = domains?.get(name);
  // Vue makes a boolean prop that is not given false.
  const isFlag = framework === 'vue' && domain?.values.includes(false) && !domain.kinds.includes('undefined');
  return { is: 'constant', value: isFlag ? false : undefined };
}
