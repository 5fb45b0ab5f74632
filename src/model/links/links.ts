import type { Project } from '../project.js';
import { hooksFor, pathOf, type Block, type SpecFile } from '../specs/blocks.js';
import type { Reach, Render } from '../specs/steps.js';
import type { Component } from '../components/view.js';
import { rendered, type RenderedTree } from './rendered.js';
import { hopFromElement, hopFromNodes } from './hops.js';
import { below, targetIn, UNKNOWN_TARGET, type Scope, type Target } from './target.js';

const NOTHING_RENDERED: RenderedTree = { children: [], elements: [], complete: false, closed: false };

/** What the specs of one file render, and which elements their queries reach; each worked out once. */
export class Links {
  readonly #project: Project;
  readonly #file: SpecFile;
  readonly #testIdAttribute: string;
  readonly #trees = new Map<Render, RenderedTree>();
  readonly #scopes = new Map<Block, Scope>();
  readonly #targets = new Map<Reach, Target>();
  readonly #replaced: ReadonlySet<string>;

  constructor(project: Project, file: SpecFile, testIdAttribute: string) {
    this.#project = project;
    this.#file = file;
    this.#testIdAttribute = testIdAttribute;
    this.#replaced = file.replaced;
  }

  /** What one render call shows. */
  tree(render: Render): RenderedTree {
    const known = this.#trees.get(render);
    if (known) return known;
    const { file, view, shallow } = render;
    const tree = view
      ? rendered(this.#project, { file, view, shallow, replaced: this.#replaced })
      : NOTHING_RENDERED;
    this.#trees.set(render, tree);
    return tree;
  }

  /** Whether a render puts something into a document that a block's queries may look at. */
  rendersFor(block: Block): Render[] {
    const outer = pathOf(block).slice(1);
    const hooks = hooksFor(block, 'before-all', 'before-each');
    const blocks = new Set([block, ...outer, ...hooks]);
    return this.#file.renders.filter((render) => blocks.has(render.block));
  }

  /** The elements that a reach finds. */
  target(reach: Reach): Target {
    const known = this.#targets.get(reach);
    if (known) return known;
    // A reach that starts from itself, through a helper that calls itself, ends here.
    this.#targets.set(reach, UNKNOWN_TARGET);
    const target = reach.by === 'hop' ? this.#hop(reach) : this.#query(reach);
    this.#targets.set(reach, target);
    return target;
  }

  #query(reach: Reach): Target {
    const scope = this.#scopeOf(reach);
    return scope ? targetIn(scope, reach, this.#project, this.#testIdAttribute) : UNKNOWN_TARGET;
  }

  #hop(reach: Reach): Target {
    const { from } = reach;
    if (typeof from !== 'object') return UNKNOWN_TARGET;
    if ('teardown' in from) return hopFromNodes(this.tree(from).children, reach.name);
    const start = this.target(from);
    return start.kind === 'one' && start.proven ? hopFromElement(start.element, reach) : UNKNOWN_TARGET;
  }

  #scopeOf(reach: Reach): Scope | undefined {
    const { from } = reach;
    if (from === 'unknown') return undefined;
    if (from === 'page') return this.#page(reach.block);
    if ('teardown' in from) {
      const tree = this.tree(from);
      const changed = changedLater(reach.block);
      return {
        elements: tree.elements,
        tree,
        complete: tree.complete && !changed,
        closed: tree.closed && !changed,
      };
    }
    const target = this.target(from);
    if (target.kind !== 'one') return undefined;
    const outer = this.#scopeOf(from);
    return (
      outer &&
      below(
        { ...outer, complete: outer.complete && target.proven, closed: outer.closed && target.proven },
        target.element,
      )
    );
  }

  #page(block: Block): Scope {
    const known = this.#scopes.get(block);
    if (known) return known;
    const trees = this.rendersFor(block).map((render) => this.tree(render));
    const tree: RenderedTree = {
      children: trees.flatMap((each) => each.children),
      elements: trees.flatMap((each) => each.elements),
      complete: trees.length > 0 && trees.every((each) => each.complete) && !changedLater(block),
      closed: trees.length > 0 && trees.every((each) => each.closed) && !changedLater(block),
    };
    const scope = { elements: tree.elements, tree, complete: tree.complete, closed: tree.closed };
    this.#scopes.set(block, scope);
    return scope;
  }

  /** The elements among which a query of a reach looks, with the trees that they stand in. */
  scope(reach: Reach): Scope | undefined {
    return this.#scopeOf(reach);
  }

  /** Components whose markup a file's renders show. */
  shownComponents(): Set<Component> {
    const found = new Set<Component>();
    for (const render of this.#file.renders)
      for (const element of this.tree(render).elements) if (element.component) found.add(element.component);
    return found;
  }
}

// New props, or nodes made by hand: what is shown then is more than the first render tells.
const changedLater = (block: Block): boolean =>
  block.steps.some((step) => step.kind === 'act' && step.by === 'program');
