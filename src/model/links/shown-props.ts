import { propsIn, propsInTest, type Expr } from '../components/expr.js';
import type { Component, ComponentNode, ViewNode } from '../components/view.js';
import type { Project } from '../project.js';

/** Whether the value of a prop, by its name, can show in what a component renders. */
export type IsShown = (prop: string) => boolean;

const ALL: IsShown = () => true;
// Deeper chains of components are not followed: the stack has an end.
const DEEPEST = 200;

/**
 * Which props of a component show: in a text, an attribute, a slot, a spread or a condition, here or in a child that
 * they are handed to. The others only decide events, and two renders that differ in them show the same.
 */
export class ShownProps {
  readonly #project: Project;
  readonly #known = new WeakMap<Component, IsShown>();

  constructor(project: Project) {
    this.#project = project;
  }

  /** Asks for a component that a file renders; all props of one that can't be read show. */
  of(node: ComponentNode, file: string, depth = 0): IsShown {
    const found = node.ref && this.#project.component(file, node.ref);
    // Wrappers hand all on, and Angular's hosts keep everything as attributes.
    if (!found || found.wraps || found.framework === 'angular' || depth > DEEPEST) return ALL;
    const known = this.#known.get(found);
    if (known) return known;
    // A component that renders itself: whatever it hands on may show.
    this.#known.set(found, ALL);
    const isShown = this.#read(found, depth);
    this.#known.set(found, isShown);
    return isShown;
  }

  #read(component: Component, depth: number): IsShown {
    const names = new Set<string>();
    const spreads: (readonly string[])[] = [];
    const add = (expr: Expr): void => propsIn(expr, (name) => names.add(name));
    const visit = (view: readonly ViewNode[]): void => {
      for (const node of view) {
        if ((node.kind === 'element' || node.kind === 'component') && node.rest) spreads.push(node.rest);
        switch (node.kind) {
          case 'element':
            if (node.chosen) add(node.chosen);
            node.attributes.forEach(add);
            visit(node.children);
            break;
          case 'component':
            this.#handedTo(node, component, depth, add, visit);
            break;
          case 'text':
            add(node.text);
            break;
          case 'slot':
            names.add(node.name);
            visit(node.fallback);
            break;
          case 'branch':
            if (node.test) propsInTest(node.test, (name) => names.add(name));
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
    return (name) =>
      names.has(name) ||
      spreads.some((except) => !except.includes(name)) ||
      (fallsThrough && !component.props.has(name));
  }

  #handedTo(
    node: ComponentNode,
    { file, templateFile }: Component,
    depth: number,
    add: (expr: Expr) => void,
    visit: (view: readonly ViewNode[]) => void,
  ): void {
    const isShown = this.of(node, templateFile ?? file, depth + 1);
    for (const [name, prop] of node.props) {
      if ('view' in prop) visit(prop.view);
      else if (isShown(name)) add(prop.expr);
    }
    node.slots.forEach(visit);
  }
}
