import type { LooseTag } from '../components/frameworks/react/loose-tags.js';
import { UNKNOWN, type Expr } from '../components/expr.js';
import { propsIn } from '../components/expr-names.js';
import {
  innerNodes,
  viewsGiven,
  type Component,
  type ComponentNode,
  type ViewNode,
} from '../components/view.js';
import type { Project } from '../project/project.js';
import type { ModuleSummary } from '../project/summary.js';
import { stands } from '../specs/model/rounds.js';
import { grouped } from '../util/grouped.js';
import { isInstalled } from '../util/paths.js';
import { componentsOf, innermost, useOfTag, written, type ComponentUse } from './uses.js';

/**
 * Uses by modules in which a component is not seen to be rendered: they import it or hand on one of their own, it is called
 * by a function, chosen at run time, or stands in what can't be read. What it is given there is not known, but for the names
 * that are written. `files`: modules that specs load.
 */
export const unseenUses = (
  project: Project,
  files: readonly string[],
  uses: readonly ComponentUse[],
): ComponentUse[] => new UnseenUses(project, files, uses).found;

// From the components that are seen on, to all that these, and the modules that they stand in, may render.
class UnseenUses {
  readonly found: ComponentUse[] = [];
  readonly #project: Project;
  readonly #files: ReadonlySet<string>;
  readonly #seen: ReadonlyMap<Component, readonly ComponentUse[]>;
  readonly #reached = new Set<Component>();
  readonly #visited = new Set<string>();

  constructor(project: Project, files: readonly string[], uses: readonly ComponentUse[]) {
    this.#project = project;
    this.#files = new Set(files);
    this.#seen = grouped(uses, ({ component }) => component);
    for (const component of this.#seen.keys()) this.#reach(component);
    for (const file of files) if (project.summary(file)?.components.length === 0) this.#visit(file);
  }

  #add(use: ComponentUse | undefined): void {
    if (!use) return;
    this.found.push(use);
    this.#reach(use.component);
  }

  #reach(component: Component): void {
    if (this.#reached.has(component) || isInstalled(component.file)) return;
    this.#reached.add(component);
    const { file, place, view } = component;
    this.#visit(file);
    if (this.#files.has(file)) this.#addTags(file, (tag) => stands(tag, place));
    // Where it is not seen, its props are not known: nor is what is made of them.
    const isSeen = this.#seen.has(component);
    for (const node of view)
      for (const use of isSeen ? this.#handedOver(node, file) : this.#asWritten(node, file)) this.#add(use);
  }

  #visit(file: string): void {
    const summary =
      this.#files.has(file) && !this.#visited.has(file) ? this.#project.summary(file) : undefined;
    if (!summary) return;
    this.#visited.add(file);
    const own = summary.components;
    for (const [local, from] of summary.imports) {
      const declared = from.typeOnly ? undefined : this.#project.imported(file, from);
      const component = declared && innermost(this.#project.componentAt(declared), this.#project);
      if (component && !this.#isShownIn(file, component, own) && !this.#project.onlyNames(file, local))
        this.#add(unseenUse(component));
    }
    for (const each of own)
      if (this.#seen.has(each) && this.#isHandedOn(each, summary)) this.#add(unseenUse(each));
    this.#addTags(file, (tag) => !own.some(({ place }) => stands(tag, place)));
  }

  // What is handed to a wrapper that is followed is rendered by that.
  #isHandedOn({ name, file }: Component, { handedOn, wrappers }: ModuleSummary): boolean {
    const isLost = (wrapper: string): boolean => !this.#project.wrapped({ file, name: wrapper });
    return (
      handedOn.has(name) || [...wrappers].some(([wrapper, handed]) => handed.has(name) && isLost(wrapper))
    );
  }

  #addTags(file: string, isAsked: (tag: LooseTag) => boolean): void {
    for (const tag of this.#project.summary(file)?.looseTags ?? []) {
      const use = isAsked(tag) ? useOfTag(tag, file, this.#project) : undefined;
      this.#add(use && { ...use, open: use.open || tag.kept, by: file, unseen: true });
    }
  }

  // What stands in markup is rendered there, or is left out for what specs give; Angular's modules import what templates
  // render by its tag.
  #isShownIn(file: string, component: Component, own: readonly Component[]): boolean {
    return (
      component.framework === 'angular' ||
      isPart(component, file, this.#project) ||
      this.#seen.get(component)?.some(({ by }) => by === file) === true ||
      own.some(({ view }) => view.some((node) => isIn(node, component, file, this.#project)))
    );
  }

  // What a component hands over in props, and what takes it has no place for, may be shown all the same.
  #handedOver(node: ViewNode, by: string): ComponentUse[] {
    const lost = node.kind === 'component' ? lostProps(node, by, this.#project) : [];
    return [
      ...lost.flatMap((each) => this.#asWritten(each, by).filter((use) => !this.#isSeen(use))),
      ...[...innerNodes(node), ...viewsGiven(node)].flatMap((each) => this.#handedOver(each, by)),
    ];
  }

  #isSeen({ component, nodes = [] }: ComponentUse): boolean {
    const uses = this.#seen.get(component) ?? [];
    return uses.some((use) => nodes.some((node) => use.nodes?.includes(node)));
  }

  #asWritten(node: ViewNode, by: string): ComponentUse[] {
    return written(node, by, this.#project).map((use) => ({
      ...use,
      given: new Map([...use.given].map(([name, expr]) => [name, expr.is === 'constant' ? expr : UNKNOWN])),
      by,
      unseen: true,
    }));
  }
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
