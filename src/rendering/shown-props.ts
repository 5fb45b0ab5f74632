import { type Expr } from '../components/expr.js';
import { visitProps, visitPropsInCondition } from '../components/expr-names.js';
import type { Component, ComponentNode, ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';

/** How a prop shows in what a component renders: by its value, or by the side of these numbers that it is on; none where it does not show. */
type Shown = 'value' | readonly number[];
type HowShown = (prop: string) => Shown;

const ALL: HowShown = () => 'value';
/** Takes in what shows. */
interface Collector {
  add: (expr: Expr) => void;
  show: (name: string, bound?: number) => void;
  visit: (view: readonly ViewNode[]) => void;
}

// Deeper chains of components are not followed: the stack has an end.
const DEEPEST = 200;

/**
 * Which props of a component show: in a text, an attribute, a slot, a spread or a condition, here or in a child that
 * they are handed to. The others only decide events, and two renders that differ in them show the same.
 */
export class ShownProps {
  readonly #project: Project;
  readonly #known = new WeakMap<Component, HowShown>();

  constructor(project: Project) {
    this.#project = project;
  }

  /** Asks for a component that a file renders; all props of one that can't be read show. */
  of(node: ComponentNode, file: string, depth = 0): HowShown {
    const found = node.ref && this.#project.component(file, node.ref);
    // Wrappers hand all on, and Angular's hosts keep everything as attributes.
    if (!found || found.wraps || found.framework === 'angular' || depth > DEEPEST) return ALL;
    const known = this.#known.get(found);
    if (known) return known;
    // A component that renders itself: whatever it hands on may show.
    this.#known.set(found, ALL);
    const shown = this.#read(found, depth);
    this.#known.set(found, shown);
    return shown;
  }

  #read(component: Component, depth: number): HowShown {
    const names = new Set<string>();
    const spreads: (readonly string[])[] = [];
    const bounds = new Map<string, Set<number>>();
    const show = (name: string, bound?: number): void => {
      if (bound === undefined) names.add(name);
      else bounds.set(name, (bounds.get(name) ?? new Set()).add(bound));
    };
    const add = (expr: Expr): void => visitProps(expr, show);
    const visit = (view: readonly ViewNode[]): void => {
      for (const node of view) {
        // What reads a context may stand in any child.
        for (const { value } of node.provided ?? []) {
          add(value);
          if (value.is === 'object' && value.rest) spreads.push(value.rest);
        }
        if ((node.kind === 'element' || node.kind === 'component') && node.rest) spreads.push(node.rest);
        switch (node.kind) {
          case 'element':
            if (node.chosen) add(node.chosen);
            node.attributes.forEach(add);
            visit(node.children);
            break;
          case 'component':
            this.#handedTo(node, component, depth, { add, show, visit });
            break;
          case 'text':
            add(node.text);
            break;
          case 'slot':
            names.add(node.name);
            visit(node.fallback);
            break;
          case 'branch':
            if (node.test) visitPropsInCondition(node.test, show);
            visit(node.children);
            break;
          case 'repeat':
            if (node.over) add(node.over);
            visit(node.children);
        }
      }
    };
    visit(component.view);
    // Vue hands what is not declared on to the root element.
    const fallsThrough = component.framework === 'vue';
    return (name) => {
      const isHandedOn =
        spreads.some((except) => !except.includes(name)) || (fallsThrough && !component.props.has(name));
      if (names.has(name) || isHandedOn) return 'value';
      return [...(bounds.get(name) ?? [])].sort((a, b) => a - b);
    };
  }

  #handedTo(
    node: ComponentNode,
    { file, templateFile }: Component,
    depth: number,
    { add, show, visit }: Collector,
  ): void {
    const shown = this.of(node, templateFile ?? file, depth + 1);
    for (const [name, prop] of node.props) {
      if ('view' in prop) {
        visit(prop.view);
        continue;
      }
      const how = shown(name);
      const { expr } = prop;
      if (typeof how === 'object' && expr.is === 'prop') how.forEach((bound) => show(expr.name, bound));
      else if (how === 'value' || how.length > 0) add(expr);
    }
    node.slots.forEach(visit);
  }
}
