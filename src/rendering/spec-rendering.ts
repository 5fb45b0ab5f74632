import { changeBy } from '../libraries/changes.js';
import type { Expr } from '../components/expr.js';
import { isProviderName, type Component, type ComponentNode, type ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';
import { hooksFor, blocksAround, type Block, type SpecFile } from '../specs/model/blocks.js';
import type { Reach, Render } from '../specs/model/steps.js';
import { SpecAnswers } from './answers.js';
import { hopFromElement, hopFromNodes } from './hops.js';
import type { RenderedElement, RenderedTree } from './rendered-tree.js';
import type { RenderInput } from './render-input.js';
import { rendered } from './rendered.js';
import { readWrapper } from './wrapper.js';
import { ShownProps } from './shown-props.js';
import { spokenBy, type Spoken } from './spoken.js';
import { isThatOne, matchesIn, targetIn, unknownTarget, type Target } from './target.js';
import { byTranslation } from './translated.js';
import { scopeBelow, searchScope, type SearchScope } from './scope.js';

// Of a render with its children, whatever its spec leaves out.
const ALL_CHILDREN: Pick<RenderInput, 'shallow' | 'stubs'> = { shallow: false };

const NOTHING_RENDERED: RenderedTree = {
  children: [],
  elements: [],
  complete: false,
  closed: false,
  pruned: false,
  stateful: false,
  uses: [],
  expanded: new Map(),
};

// What is shown where a spec replaces the template.
const REPLACED: Readonly<Record<NonNullable<Render['template']>, RenderedTree>> = {
  blank: { ...NOTHING_RENDERED, complete: true },
  replaced: {
    ...NOTHING_RENDERED,
    children: [{ kind: 'hole', why: 'a template that the spec replaces', reads: [] }],
  },
};

/** What a render is given: its view, and what functions give to what it shows, by their keys. */
interface Instead {
  view?: readonly ViewNode[];
  answers?: ReadonlyMap<string, Expr>;
  /** Before anything has happened, with other states than at first, by their keys. */
  states?: ReadonlyMap<string, Expr>;
}

/** Another way to see what is rendered: under any condition, or with the children that are left out. */
interface Variant {
  everything?: boolean;
  whole?: boolean;
  /** Before anything has happened, with these states. */
  untouched?: ReadonlyMap<string, Expr>;
  /** What the same renders show as their specs give it. */
  asGiven?: SpecRendering;
  /** A render that is given something else than its spec says. */
  instead?: { of: Render } & Instead;
  /** What it is a variant of. */
  of?: SpecRendering;
}

/** What the specs of one file render, and which elements their queries reach; each worked out once. */
export class SpecRendering {
  readonly #project: Project;
  readonly #file: SpecFile;
  readonly #testIdAttribute: string;
  readonly #trees = new Map<Render, RenderedTree>();
  readonly #byView = new Map<string, RenderedTree>();
  readonly #wrappers = new Map<ComponentNode, ComponentNode | 'unknown'>();
  readonly #scopes = new Map<Block, SearchScope>();
  readonly #targets = new Map<Reach, Target>();
  readonly #replaced: ReadonlySet<string>;
  readonly #overridden: SpecFile['overridden'];
  readonly #tellsContexts: boolean;
  /** Which props of a component show. */
  readonly shownProps: ShownProps;
  readonly #variant: Variant;
  #answers: SpecAnswers | undefined;
  #underAnyCondition: SpecRendering | undefined;
  #withChildren: SpecRendering | undefined;
  #untouched: SpecRendering | undefined;
  #spoken: { is: Spoken | undefined } | undefined;

  constructor(
    project: Project,
    file: SpecFile,
    testIdAttribute: string,
    shownProps = new ShownProps(project),
    variant: Variant = {},
  ) {
    this.#variant = variant;
    this.shownProps = shownProps;
    this.#project = project;
    this.#file = file;
    this.#testIdAttribute = testIdAttribute;
    this.#replaced = file.replaced;
    this.#overridden = file.overridden;
    this.#tellsContexts = tellsContexts(file);
  }

  /** What the stand-ins of the file give for functions of modules. */
  get answers(): SpecAnswers {
    return (this.#answers ??= this.#variant.of?.answers ?? new SpecAnswers(this.#file, this.#project));
  }

  /** What translators give where the specs run, where their queries tell. */
  get spoken(): Spoken | undefined {
    if (this.#variant.of) return this.#variant.of.spoken;
    const components = this.#file.renders.flatMap((render) => this.component(render) ?? []);
    this.#spoken ??= { is: spokenBy(this.#file.reaches, components, this.#project) };
    return this.#spoken.is;
  }

  /** The same, with all that the components show under any condition. */
  get underAnyCondition(): SpecRendering {
    return (this.#underAnyCondition ??= new SpecRendering(
      this.#project,
      this.#file,
      this.#testIdAttribute,
      this.shownProps,
      { everything: true, asGiven: this, of: this },
    ));
  }

  /** The same, before anything has happened: states hold what they hold at first. */
  get untouched(): SpecRendering {
    return (this.#untouched ??= new SpecRendering(
      this.#project,
      this.#file,
      this.#testIdAttribute,
      this.shownProps,
      { untouched: new Map(), asGiven: this, of: this },
    ));
  }

  /** The same, with the children rendered that the specs leave out. */
  get withChildren(): SpecRendering {
    return (this.#withChildren ??= new SpecRendering(
      this.#project,
      this.#file,
      this.#testIdAttribute,
      this.shownProps,
      { whole: true, of: this },
    ));
  }

  /** The same, if one of its renders were given something else. */
  given(instead: Instead, of: Render): SpecRendering {
    return new SpecRendering(this.#project, this.#file, this.#testIdAttribute, this.shownProps, {
      instead: { of, ...instead },
      untouched: instead.states,
      of: this,
    });
  }

  /** The component that a render call is of; undefined where that is markup of the spec's own, or can't be told. */
  component({ view, file }: Render): Component | undefined {
    const [node] = view ?? [];
    return node?.kind === 'component' && node.ref ? this.#project.component(file, node.ref) : undefined;
  }

  /** The component that a render call is about: the one within the providers that the spec writes around it. */
  subject(render: Render): Component | undefined {
    let [node] = render.view ?? [];
    for (let inner = withinProvider(node); inner; inner = withinProvider(inner)) node = inner;
    const isOuter = node === render.view?.[0];
    const found = isOuter || node?.kind !== 'component' ? undefined : node.ref;
    return (found && this.#project.component(render.file, found)) ?? this.component(render);
  }

  /** What one render call shows. */
  tree(render: Render): RenderedTree {
    const known = this.#trees.get(render);
    if (known) return known;
    const { asGiven } = this.#variant;
    const { template } = render;
    const instead = this.#variant.instead?.of === render ? this.#variant.instead : undefined;
    const view = instead?.view ?? render.view;
    if (template && view) return REPLACED[template];
    // Where nothing was left out, there is nothing more to show.
    const given = asGiven?.tree(render);
    if (given && !(this.#variant.untouched ? given.stateful : given.pruned)) return given;
    const tree = view ? this.treeOf(view, render, instead?.answers) : NOTHING_RENDERED;
    // A field that the spec sets may have been taken for one that keeps its value.
    const kept = setsFields(render, this.#project) ? { ...tree, complete: false, closed: false } : tree;
    this.#trees.set(render, kept);
    return kept;
  }

  /** What a part of the markup shows that a render call is handed, by itself. */
  treeOf(view: readonly ViewNode[], render: Render, answers = this.answers.at(render)): RenderedTree {
    const { everything, whole, untouched } = this.#variant;
    const { shallow, stubs } = whole ? ALL_CHILDREN : render;
    const { file, writtenIn } = render;
    const wrapper = this.#tellsContexts ? 'unknown' : this.#wrapperOf(render);
    const replaced = this.#replaced;
    return this.#expanded({
      file,
      writtenIn,
      view,
      shallow,
      stubs,
      replaced,
      overridden: this.#overridden,
      wrapper,
      everything,
      answers,
      untouched,
      spoken: this.spoken,
    });
  }

  #wrapperOf(render: Render): RenderInput['wrapper'] {
    const { wrapper } = render;
    if (!wrapper || wrapper === 'unknown') return wrapper;
    const known =
      this.#wrappers.get(wrapper) ?? readWrapper({ ...render, wrapper }, this.#project, this.#replaced);
    this.#wrappers.set(wrapper, known);
    return known;
  }

  // Specs of a file mostly render the same: equal views are filled in once.
  #expanded(input: RenderInput): RenderedTree {
    const key = keyOf(input, this.shownProps);
    const tree = (key && this.#byView.get(key)) || rendered(this.#project, input);
    if (key) this.#byView.set(key, tree);
    return tree;
  }

  /** Whether a render puts something into a document that a block's queries may look at. */
  rendersFor(block: Block): Render[] {
    const outer = blocksAround(block).slice(1);
    const hooks = hooksFor(block, 'before-all', 'before-each');
    const blocks = new Set([block, ...outer, ...hooks]);
    return this.#file.renders.filter((render) => blocks.has(render.block));
  }

  /** The elements that a reach finds. */
  target(reach: Reach): Target {
    const known = this.#targets.get(reach);
    if (known) return known;
    // A reach that starts from itself, through a helper that calls itself, ends here.
    this.#targets.set(reach, unknownTarget('asked of what is not known'));
    const target = reach.pickedFrom
      ? pickedOf(this.target(reach.pickedFrom), reach.position)
      : reach.by === 'hop'
        ? this.#hop(reach)
        : this.#query(reach);
    this.#targets.set(reach, target);
    return target;
  }

  /**
   * The elements that a reach may find: all of them, but for such as stand in a part that can't be read. Undefined where
   * any element may be it.
   */
  mayFind(reach: Reach): readonly RenderedElement[] | undefined {
    if (reach.pickedFrom) return this.mayFind(reach.pickedFrom);
    if (reach.by === 'hop') {
      const target = this.target(reach);
      return target.kind === 'one' ? [target.element] : target.kind === 'many' ? target.elements : undefined;
    }
    const scope = this.scope(reach);
    const matches = scope && matchesIn(scope, reach, this.#project, this.#testIdAttribute);
    if (matches && isThatOne(matches.sure, reach)) return matches.sure;
    const told = matches && reach.missing === 'throws' ? byTranslation(reach, matches.maybe, scope.tree) : [];
    // What it says where nothing translates is what it says in a spec.
    const maybe = told.length > 0 && matches?.sure.length === 0 ? told : (matches?.maybe ?? []);
    const found = matches ? [...matches.sure, ...maybe] : [];
    // What a passing spec asks for is there: if not as the props say now, then as they say later.
    return found.length > 0 ? found : undefined;
  }

  #query(reach: Reach): Target {
    const scope = this.scope(reach);
    if (scope) return targetIn(scope, reach, this.#project, this.#testIdAttribute);
    return this.#blurred(reach.from);
  }

  // What is asked of something that can't be told can't be told for the same reason.
  #blurred(from: Reach['from']): Target {
    const start = typeof from === 'object' && !('teardown' in from) ? this.target(from) : undefined;
    if (start?.kind === 'unknown') return start;
    return unknownTarget(start ? 'one of several' : 'asked of what is not known');
  }

  #hop(reach: Reach): Target {
    const { from } = reach;
    if (typeof from !== 'object') return this.#blurred(from);
    if ('teardown' in from) return hopFromNodes(this.tree(from).children, reach.name);
    const start = this.target(from);
    return start.kind === 'one' && start.proven ? hopFromElement(start.element, reach) : this.#blurred(from);
  }

  /** The elements among which a query of a reach looks, with the trees that they stand in. */
  scope(reach: Reach): SearchScope | undefined {
    const { from } = reach;
    if (from === 'unknown') return undefined;
    if (from === 'page') return this.#page(reach.block);
    if ('teardown' in from) {
      return searchScope(this.tree(from), this.#changedLater(reach.block));
    }
    const target = this.target(from);
    if (target.kind !== 'one') return undefined;
    const outer = this.scope(from);
    return (
      outer &&
      scopeBelow(
        { ...outer, complete: outer.complete && target.proven, closed: outer.closed && target.proven },
        target.element,
      )
    );
  }

  // New props, fields that are set, or nodes made by hand: more may be shown then than the first render tells.
  #changedLater(block: Block): boolean {
    const acts = block.steps.some(
      (step) =>
        step.kind === 'act' && step.by === 'program' && changeBy(step.name, step.args.length) !== 'tells',
    );
    return (
      acts ||
      this.#file.insides.some(
        (inside) => inside.block === block && inside.how === 'set' && inside.render?.gives !== 'fixture',
      )
    );
  }

  #page(block: Block): SearchScope {
    const known = this.#scopes.get(block);
    if (known) return known;
    const tree = together(this.rendersFor(block).map((render) => this.tree(render)));
    const scope = searchScope(tree, this.#changedLater(block));
    this.#scopes.set(block, scope);
    return scope;
  }
}

// The only thing that a provider is written around.
function withinProvider(node: ViewNode | undefined): ViewNode | undefined {
  if (node?.kind !== 'component' || !isProviderName(node.name)) return undefined;
  const inside = [...node.slots.values()]
    .flat()
    .filter(
      (each) => each.kind !== 'text' || each.text.is !== 'constant' || String(each.text.value).trim() !== '',
    );
  return inside.length === 1 ? inside[0] : undefined;
}

// The components and the values that they are given, as far as these show; none where the spec's own markup is a part of the view.
// Whether specs tell the function that reads contexts what to give.
const tellsContexts = ({ root, blocks, replaced }: SpecFile): boolean =>
  replaced.has('react') ||
  [root, ...blocks].some(({ steps }) =>
    steps.some(
      (step) =>
        step.kind === 'stand-in' &&
        (step.standIn.member === 'useContext' || step.standIn.path?.endsWith('.useContext')),
    ),
  );

function keyOf(
  { file, view, shallow, stubs, wrapper, answers }: RenderInput,
  shownProps: ShownProps,
): string | undefined {
  const parts: string[] = [file, String(shallow), ...(stubs ?? [])];
  if (wrapper)
    parts.push(typeof wrapper === 'string' ? wrapper : JSON.stringify([wrapper.ref, wrapper.open]));
  for (const [key, answer] of answers ?? []) parts.push(key, JSON.stringify(answer));
  for (const node of view) {
    if (node.kind !== 'component' || node.slots.size > 0) return undefined;
    parts.push(node.name, String(node.open), JSON.stringify(node.ref), node.events.join());
    if (node.provided) parts.push(JSON.stringify(node.provided));
    const how = shownProps.of(node, file);
    for (const [name, prop] of node.props) {
      if (!('expr' in prop)) return undefined;
      const shows = how(name);
      if (shows === 'value') parts.push(name, shown(prop.expr));
      else if (shows.length > 0) parts.push(name, side(prop.expr, shows));
    }
  }
  return parts.join('\0');
}

function shown(expr: Expr): string {
  if (expr.is === 'unknown') return '?';
  return expr.is === 'constant' ? `${typeof expr.value} ${String(expr.value)}` : JSON.stringify(expr);
}

// Between which numbers a value stands: renders on the same side of all of them show the same.
function side(expr: Expr, bounds: readonly number[]): string {
  const value = expr.is === 'constant' ? expr.value : undefined;
  if (typeof value !== 'number' || Number.isNaN(value)) return shown(expr);
  return `${bounds.filter((bound) => bound < value).length}${bounds.includes(value) ? '=' : ''}`;
}

// All that a page shows when several renders put their parts into it.
function together(trees: readonly RenderedTree[]): RenderedTree {
  const [only] = trees;
  if (trees.length < 2) return only ?? NOTHING_RENDERED;
  return {
    children: trees.flatMap((tree) => tree.children),
    elements: trees.flatMap((tree) => tree.elements),
    complete: trees.every((tree) => tree.complete),
    closed: trees.every((tree) => tree.closed),
    pruned: trees.some((tree) => tree.pruned),
    stateful: trees.some((tree) => tree.stateful),
    uses: trees.flatMap((tree) => tree.uses),
    expanded: new Map(trees.flatMap((tree) => [...tree.expanded])),
  };
}

// The element at a position, where all before it are surely there.
function pickedOf(target: Target, position: Reach['position']): Target {
  if (target.kind === 'one')
    return position === 0 || position === 'last' ? target : unknownTarget('one of several');
  if (target.kind === 'unknown') return target;
  if (target.kind !== 'many' || !target.complete) return unknownTarget('one of several');
  const { elements } = target;
  const isPlain = elements.every(({ repeated, guards }) => !repeated && guards.length === 0);
  const element =
    position === 'last' ? elements.at(-1) : typeof position === 'number' ? elements.at(position) : undefined;
  return element && isPlain ? { kind: 'one', element, proven: true } : unknownTarget('one of several');
}

function setsFields({ gives, view, file, props }: Render, project: Project): boolean {
  const [node] = view ?? [];
  if (gives !== 'fixture' || node?.kind !== 'component' || !node.ref || props.size === 0) return false;
  const component = project.component(file, node.ref);
  return [...props.keys()].some((name) => !component?.props.has(name));
}
