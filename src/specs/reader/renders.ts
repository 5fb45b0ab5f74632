import type { Node } from 'oxc-parser';
import type { Meaning } from '../../libraries/meaning.js';
import { constant, oneOf } from '../../components/expr.js';
import { callbackGuard } from './guards.js';
import { kebabCase } from '../../util/case.js';
import {
  componentKey,
  type ComponentNode,
  type ComponentRef,
  type Prop,
  type ViewNode,
} from '../../components/view.js';
import type { Span } from '../../finding.js';
import { vueMarkup } from '../../components/frameworks/vue/vue-markup.js';
import { exprOfValue, viewOfValue } from './spec-scope.js';

import type { SpecReading } from './spec-reading.js';
import { givenToComponent } from './uses.js';
import type { Render } from '../model/steps.js';
import { textOfValue, type LibraryObject, type Value } from '../model/values.js';

/** A call that puts a component into a document. */
export function renderBy(
  run: SpecReading,
  meaning: Extract<Meaning, { kind: 'render' }>,
  call: { name: string; module: string; node: Node; args: readonly Value[] },
): LibraryObject {
  const { name, module, node, args } = call;
  const shown =
    meaning.takes === 'element'
      ? elementShown(args[0])
      : componentShown(run, args[0], args[1], node, meaning.gives === 'fixture');
  const place = run.placeOf(node);
  const adds: ViewNode[] = meaning.adds ? [{ kind: 'hole', why: `what ${name} adds`, place }] : [];
  const render: Render = {
    block: run.block,
    place,
    gives: meaning.gives,
    name,
    module,
    teardown: meaning.teardown,
    shallow: meaning.shallow ?? false,
    stubs: shown?.stubs ?? new Set(),
    view: shown && [...shown.view, ...adds],
    props: shown?.props ?? new Map(),
    wrapper: meaning.takes === 'element' ? wrapperIn(run, args[1], node) : undefined,
    around: args[0]?.is === 'jsx' && !run.site ? writtenAround(args[0]) : undefined,
    file: shown?.file ?? run.tree.path,
    writtenIn: run.tree.path,
    template: run.templates.get(shownKey(shown) ?? ''),
    lags: lagsBehind(args[1]),
    attached:
      args[1]?.is === 'object' &&
      ['attachTo', 'attachToDocument', 'container'].some(
        (key) => args[1]?.is === 'object' && args[1].entries.has(key),
      ),
  };
  for (const each of args) {
    callBackFrom(run, each);
    run.handOut(each);
  }
  keepChanges(run, render, args[1], node);
  run.file.renders.push(render);
  run.emit({ kind: 'render', render }, node);
  return { is: 'thing', type: meaning.gives, render };
}

// `{ props: { onFire: () => expect(…) } }`: what is given as a prop runs if the component calls it.
function callBackFrom(run: SpecReading, options: Value): void {
  if (options.is !== 'object') return;
  for (const [key, props] of options.entries) {
    if (props.is !== 'object' || !(PROPS.has(key) || LISTENERS.has(key))) continue;
    for (const each of props.entries.values())
      if (each.is === 'function')
        run.under({ guard: callbackGuard(run, 'event', each.node, each.tree) }, () => run.handOut(each));
  }
}

// The component at the root, by its file and name.
function shownKey(shown: Shown): string | undefined {
  const [root] = shown?.view ?? [];
  return shown && root?.kind === 'component'
    ? componentKey({ file: shown.file, name: root.name })
    : undefined;
}

/** A component whose template a spec replaces before it is made: `overrideTemplate(Lid, '')`. */
export function overrideComponent(run: SpecReading, [component, change]: readonly Value[]): void {
  const target = componentRef(run, component);
  const text = templateIn(change);
  if (target && text !== undefined)
    run.templates.set(componentKey(target), text === '' ? 'blank' : 'replaced');
}

// The new template; undefined where it stays, and any text where that can't be read.
function templateIn(change: Value | undefined): string | undefined {
  if (change?.is !== 'object') return textOfValue(change)?.trim() ?? '?';
  const sets = change.entries.get('set');
  if (sets?.is !== 'object') return change.open ? '?' : undefined;
  const template = sets.entries.get('template');
  // Without its imports, a template shows nothing of its children.
  if (!template) return sets.entries.has('imports') || sets.entries.has('templateUrl') ? '?' : undefined;
  return textOfValue(template)?.trim() ?? '?';
}

function lagsBehind(options: Value | undefined): true | undefined {
  const sync = options?.is === 'object' ? options.entries.get('sync') : undefined;
  return sync && !(sync.is === 'constant' && sync.value === true) ? true : undefined;
}

/** A prop of a rendered component that a spec sets by hand; one of several values, where it does so again. */
export function setInput(render: Render, name: string, value: Value | undefined): void {
  const before = render.props.get(name);
  const expr = exprOfValue(value);
  render.props.set(name, { expr: before && 'expr' in before ? oneOf([before.expr, expr]) : expr });
}

function keepChanges(run: SpecReading, { view, file }: Render, options: Value | undefined, node: Node): void {
  const [shown] = view ?? [];
  const component =
    shown?.kind === 'component' && shown.ref ? run.project.component(file, shown.ref) : undefined;
  if (!component?.changes?.size || options?.is !== 'object') return;
  for (const [key, props] of options.entries)
    if (PROPS.has(key) && props.is === 'object')
      for (const [name, value] of props.entries) givenToComponent(run, component, name, value, node);
}

type Shown =
  | { view: readonly ViewNode[]; file: string; stubs?: ReadonlySet<string>; props?: Map<string, Prop> }
  | undefined;

function elementShown(value: Value | undefined): Shown {
  const view = viewOfValue(value);
  return view && value?.is === 'jsx' ? { view, file: value.tree.path } : undefined;
}

// The tags, each with nothing but the next in it, that stand around the innermost such: `<MemoryRouter><Lid /></MemoryRouter>`.
function writtenAround({ node, tree }: Extract<Value, { is: 'jsx' }>): string[] {
  const found: string[] = [];
  let at: Node | undefined = node;
  while (at?.type === 'JSXElement') {
    const inside: readonly Node[] = at.children.filter(
      (each) => each.type !== 'JSXText' || each.value.trim() !== '',
    );
    const [only, ...more]: readonly Node[] = inside;
    if (only?.type !== 'JSXElement' || more.length > 0) break;
    found.push(tree.script.source.text.slice(at.openingElement.start, at.openingElement.end));
    at = only;
  }
  return found;
}

// What the options of a render of markup wrap it in.
function wrapperIn(
  run: SpecReading,
  options: Value | undefined,
  { start, end }: Node,
): ComponentNode | 'unknown' | undefined {
  if (!options || (options.is === 'constant' && options.value === undefined)) return undefined;
  if (options.is !== 'object') return 'unknown';
  const value = options.entries.get('wrapper') ?? options.entries.get('wrappingComponent');
  if (!value) return options.open ? 'unknown' : undefined;
  const target = functionRef(value) ?? componentRef(run, value);
  const open = options.entries.has('wrappingComponentProps');
  return target
    ? componentNode(target, { start, end }, { props: new Map(), slots: new Map(), open })
    : 'unknown';
}

// A function of the specs that is a component.
function functionRef(value: Value): Referred | undefined {
  if (value.is !== 'function') return undefined;
  const { path: file } = value.tree;
  return { file, ref: { file, at: value.node.start }, name: 'wrapper' };
}

function componentShown(
  run: SpecReading,
  component: Value | undefined,
  options: Value | undefined,
  node: Node,
  isFixture: boolean,
): Shown {
  const target = componentRef(run, component);
  if (!target) return undefined;
  const place = { start: node.start, end: node.end };
  const { props, slots, open, stubs, unread } = optionsOf(run, options, place);
  // Inputs of a fixture are set on its instance, before and after.
  const element = componentNode(target, place, { props, slots, open: open || isFixture });
  const hole: ViewNode[] = unread
    ? [{ kind: 'hole', why: 'what the options of the render change', place }]
    : [];
  return { view: [element, ...hole], file: target.file, stubs, props };
}

const componentNode = (
  { name, ref }: Referred,
  place: Span,
  given: Pick<ComponentNode, 'props' | 'slots' | 'open'>,
): ComponentNode => ({ kind: 'component', name, ref, place, events: [], ...given });

interface Referred {
  file: string;
  ref: ComponentRef;
  name: string;
}

function componentRef(run: SpecReading, value: Value | undefined): Referred | undefined {
  if (value?.is === 'project') {
    const { file, name } = value.declared;
    return { file, ref: { file, local: name }, name };
  }
  if (value?.is === 'object') {
    const file = value.file ?? run.tree.path;
    const ref = { file, at: value.node.start };
    const made = run.project.component(file, ref);
    return made && { file, ref, name: made.name };
  }
  if (value?.is === 'class' && value.node.id) {
    const { path } = value.tree;
    return { file: path, ref: { file: path, local: value.node.id.name }, name: value.node.id.name };
  }
  return undefined;
}

type ObjectValue = Extract<Value, { is: 'object' }>;

interface Given {
  props: Map<string, Prop>;
  slots: Map<string, readonly ViewNode[]>;
  open: boolean;
  stubs: Set<string>;
  /** Options change what is shown in a way that can't be read. */
  unread: boolean;
}

const PROPS = new Set(['props', 'propsData', 'attrs', 'inputs', 'componentInputs', 'componentProperties']);
const LISTENERS = new Set(['on', 'listeners']);
const UNREAD = new Set([
  'scopedSlots',
  'mixins',
  'computed',
  'setup',
  'shallow',
  'render',
  'template',
  'extends',
]);

// The options of a mount: props, slots and stand-ins of children as far as they are literal.
function optionsOf(run: SpecReading, options: Value | undefined, place: Span): Given {
  const given: Given = { props: new Map(), slots: new Map(), open: false, stubs: new Set(), unread: false };
  if (!options || (options.is === 'constant' && options.value === undefined)) return given;
  if (options.is !== 'object') return { ...given, open: true, unread: true };
  const registered = registeredIn(run, options);
  for (const [key, value] of options.entries) {
    if (PROPS.has(key)) addProps(value, given);
    else if (key === 'slots')
      addSlots(value, given, (content) => slotContent(run, content, registered, place));
    else if (key === 'stubs') addStubs(value, given);
    else if (key === 'global') addGlobal(value, given);
    else given.unread ||= UNREAD.has(key);
  }
  given.open ||= options.open;
  given.unread ||= options.open;
  return given;
}

function addProps(value: Value, given: Given): void {
  if (value.is !== 'object') given.open = true;
  else {
    for (const [name, each] of value.entries) given.props.set(name, { expr: exprOfValue(each) });
    given.open ||= value.open;
  }
}

function addGlobal(value: Value, given: Given): void {
  if (value.is !== 'object' || value.open) given.unread = true;
  const stubs = value.is === 'object' ? value.entries.get('stubs') : undefined;
  if (stubs) addStubs(stubs, given);
}

// `{ KilnLid: true }`, or a list of names; `false` leaves a child as it is.
function addStubs(value: Value, given: Given): void {
  const isOff = (each: Value): boolean => each.is === 'constant' && each.value === false;
  if (value.is === 'object') {
    for (const [name, each] of value.entries) if (!isOff(each)) given.stubs.add(kebabCase(name));
    given.unread ||= value.open;
  } else if (value.is === 'list') {
    for (const name of value.items.map(textOfValue)) if (name) given.stubs.add(kebabCase(name));
    given.unread ||= value.open;
  } else given.unread ||= !isOff(value);
}

function addSlots(value: Value, given: Given, viewOf: (content: Value) => ViewNode[]): void {
  const entries: (readonly [string, Value])[] =
    value.is === 'object' ? [...value.entries] : [['default', value]];
  for (const [name, content] of entries)
    given.slots.set(
      name === 'default' ? 'children' : `#${name}`,
      content.is === 'list' && !content.open ? content.items.flatMap(viewOf) : viewOf(content),
    );
}

// A text, markup, or a component.
function slotContent(
  run: SpecReading,
  content: Value,
  registered: ReadonlyMap<string, ComponentRef>,
  place: Span,
): ViewNode[] {
  const component = componentRef(run, content);
  if (component)
    return [componentNode(component, place, { props: new Map(), slots: new Map(), open: false })];
  const text = content.is === 'constant' && typeof content.value === 'string' ? content.value : undefined;
  if (text === undefined) return [{ kind: 'hole', why: 'the content of a slot', place }];
  return text.includes('<')
    ? vueMarkup(text, place, registered)
    : [{ kind: 'text', text: constant(text), place }];
}

// `global: { components: { KilnLid } }`: what the markup of slots may name.
function registeredIn(run: SpecReading, { entries }: ObjectValue): Map<string, ComponentRef> {
  const global = entries.get('global');
  const components = (global?.is === 'object' ? global.entries : entries).get('components');
  const known = new Map<string, ComponentRef>();
  if (components?.is !== 'object') return known;
  for (const [name, value] of components.entries) {
    const component = componentRef(run, value);
    if (component) known.set(name, component.ref);
  }
  return known;
}
