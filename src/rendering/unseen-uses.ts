import type { LooseTag } from '../components/frameworks/react/loose-tags.js';
import { UNKNOWN, type Expr } from '../components/expr.js';
import { propsIn } from '../components/expr-names.js';
import { innerNodes, type Component, type ComponentNode, type ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';
import { stands } from '../specs/model/rounds.js';
import { grouped } from '../util/grouped.js';
import { isInstalled } from '../util/paths.js';
import { componentBehind, componentsOf, viewsGiven, written, type ComponentUse } from './uses.js';

/**
 * Uses by modules in which a component is not seen to be rendered: they import it or hand on one of their own, it is called
 * by a function, chosen at run time, or stands in what can't be read. What it is given there is not known, but for the names
 * that are written. `files`: modules that specs load.
 */
export function unseenUses(
  project: Project,
  files: readonly string[],
  uses: readonly ComponentUse[],
): ComponentUse[] {
  const seen = grouped(uses, ({ component }) => component);
  const all = new Set(files);
  const waiting = new Set(files);
  const reached = new Set<Component>();
  const found: ComponentUse[] = [];
  const reach = (component: Component): void => {
    if (reached.has(component) || isInstalled(component.file)) return;
    reached.add(component);
    const { file, place, view } = component;
    if (waiting.delete(file)) visitModule(file);
    const tags = (all.has(file) && project.summary(file)?.looseTags) || [];
    for (const tag of tags) if (stands(tag, place)) addTag(tag, file);
    const uses = seen.get(component);
    if (uses) {
      for (const use of view.flatMap((node) => handedOver(node, file))) add(use);
      return;
    }
    // Its props are not known: nor is what is made of them.
    for (const use of view.flatMap((node) => asWritten(node, file))) add(use);
  };
  // What it hands over in props, and what takes it has no place for, may be shown all the same.
  const handedOver = (node: ViewNode, by: string): ComponentUse[] => [
    ...(node.kind === 'component' ? lostProps(node, by, project) : []).flatMap((each) =>
      asWritten(each, by).filter(isShownNowhere),
    ),
    ...[...innerNodes(node), ...viewsGiven(node)].flatMap((each) => handedOver(each, by)),
  ];
  const isShownNowhere = ({ component, nodes = [] }: ComponentUse): boolean =>
    !seen.get(component)?.some((use) => nodes.some((node) => use.nodes?.includes(node)));
  const asWritten = (node: ViewNode, by: string): ComponentUse[] =>
    written(node, by, project).map((use) => ({
      ...use,
      given: new Map([...use.given].map(([name, expr]) => [name, expr.is === 'constant' ? expr : UNKNOWN])),
      by,
      unseen: true,
    }));
  const add = (use: ComponentUse): void => {
    found.push(use);
    reach(use.component);
  };
  const addTag = ({ ref, given, open }: LooseTag, by: string): void => {
    const component = componentBehind(ref, by, project);
    const names = [...given].map((name) => [name, UNKNOWN] as const);
    if (component) add({ component, given: new Map(names), open, by, unseen: true });
  };
  const visitModule = (file: string): void => {
    const summary = project.summary(file);
    if (!summary) return;
    const own = summary.components;
    for (const [local, from] of summary.imports) {
      const declared = from.typeOnly ? undefined : project.imported(file, from);
      const component = declared && project.componentAt(declared);
      // Angular's modules import what templates render by its tag.
      // What stands in markup is rendered there, or is left out for what specs give.
      const isSeen =
        component === undefined ||
        component.framework === 'angular' ||
        isPart(component, file, project) ||
        seen.get(component)?.some(({ by }) => by === file) ||
        own.some(({ view }) => view.some((node) => isIn(node, component, file, project))) ||
        project.onlyCompares(file, local);
      if (!isSeen) add(unseenUse(component));
    }
    for (const each of own) if (seen.has(each) && summary.handedOn.has(each.name)) add(unseenUse(each));
    for (const tag of summary.looseTags) if (!own.some(({ place }) => stands(tag, place))) addTag(tag, file);
  };
  for (const component of seen.keys()) reach(component);
  for (const file of files)
    if (project.summary(file)?.components.length === 0 && waiting.delete(file)) visitModule(file);
  return found;
}

// The markup in props of a component that nothing in its own markup speaks of.
function lostProps(node: ComponentNode, by: string, project: Project): ViewNode[] {
  const taker = node.ref && project.shownFor(by, node.ref);
  if (!taker) return [];
  return [...node.props].flatMap(([name, prop]) =>
    'view' in prop && !speaksOf(taker.view, name) ? [...prop.view] : [],
  );
}

// By its name, or as one of those that it hands on without naming them.
const speaksOf = (view: readonly ViewNode[], name: string): boolean =>
  view.some((node) => {
    if (node.kind === 'slot' && node.name === name) return true;
    if (node.kind === 'element' || node.kind === 'component') {
      const exprs =
        node.kind === 'element'
          ? [...node.attributes.values()]
          : [...node.props.values()].flatMap((prop) => ('expr' in prop ? [prop.expr] : []));
      if (node.open || node.rest !== undefined || exprs.some((expr) => reads(expr, name))) return true;
    }
    return speaksOf([...innerNodes(node), ...viewsGiven(node)], name);
  });

function reads(expr: Expr, name: string): boolean {
  let found = false;
  propsIn(expr, (prop) => (found ||= prop === name));
  return found;
}

const unseenUse = (component: Component): ComponentUse => ({
  component,
  given: new Map(),
  open: true,
  unseen: true,
});

// What it only gives to another as a part is rendered by that name.
const isPart = (component: Component, file: string, project: Project): boolean =>
  [...(project.summary(file)?.parts.values() ?? [])].some((parts) =>
    [...parts.values()].some((ref) => project.component(file, ref) === component),
  );

function isIn(node: ViewNode, component: Component, file: string, project: Project): boolean {
  for (const each of componentsOf(node, file, project)) if (each === component) return true;
  return false;
}
