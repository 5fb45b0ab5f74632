import type { Node } from 'oxc-parser';
import type { Meaning } from '../../dialects/meaning.js';
import { constant } from '../components/expr.js';
import type { ComponentNode, ComponentRef, Prop, ViewNode } from '../components/view.js';
import { exprOfValue, viewOfValue } from './spec-scope.js';
import { handOut } from './functions.js';
import type { Run } from './run.js';
import type { Render } from './steps.js';
import type { Thing, Value } from './values.js';

/** A call that puts a component into a document. */
export function renderBy(
  run: Run,
  meaning: Extract<Meaning, { kind: 'render' }>,
  call: { name: string; module: string; node: Node; args: readonly Value[] },
): Thing {
  const { name, module, node, args } = call;
  const shown = meaning.takes === 'element' ? elementShown(args[0]) : componentShown(args[0], args[1], node);
  const render: Render = {
    block: run.block,
    place: run.placeOf(node),
    gives: meaning.gives,
    name,
    module,
    teardown: meaning.teardown,
    shallow: meaning.shallow ?? false,
    view: shown?.view,
    file: shown?.file ?? run.tree.path,
    attached:
      args[1]?.is === 'object' &&
      ['attachTo', 'attachToDocument', 'container'].some(
        (key) => args[1]?.is === 'object' && args[1].entries.has(key),
      ),
  };
  for (const each of args) handOut(run, each);
  run.file.renders.push(render);
  run.emit({ kind: 'render', render }, node);
  return { is: 'thing', type: meaning.gives, render };
}

type Shown = { view: readonly ViewNode[]; file: string } | undefined;

function elementShown(value: Value | undefined): Shown {
  const view = viewOfValue(value);
  return view && value?.is === 'jsx' ? { view, file: value.tree.path } : undefined;
}

function componentShown(component: Value | undefined, options: Value | undefined, node: Node): Shown {
  const target = componentRef(component);
  if (!target) return undefined;
  const place = { start: node.start, end: node.end };
  const given = optionsOf(options);
  const element: ComponentNode = {
    kind: 'component',
    name: target.name,
    ref: target.ref,
    place,
    events: [],
    ...given,
  };
  const hole: ViewNode[] = given.stubbed ? [{ kind: 'hole', why: 'children that are stubbed', place }] : [];
  return { view: [element, ...hole], file: target.file };
}

function componentRef(
  value: Value | undefined,
): { file: string; ref: ComponentRef; name: string } | undefined {
  if (value?.is === 'project') {
    const { file, name } = value.declared;
    return { file, ref: { local: name }, name };
  }
  if (value?.is === 'class' && value.node.id)
    return { file: value.tree.path, ref: { local: value.node.id.name }, name: value.node.id.name };
  return undefined;
}

interface Given {
  props: Map<string, Prop>;
  slots: Map<string, readonly ViewNode[]>;
  open: boolean;
  stubbed: boolean;
}

// The options of a mount: props and slots as far as they are literal.
function optionsOf(options: Value | undefined): Given {
  const given: Given = { props: new Map(), slots: new Map(), open: false, stubbed: false };
  if (!options || (options.is === 'constant' && options.value === undefined)) return given;
  if (options.is !== 'object') return { ...given, open: true };
  for (const [key, value] of options.entries) {
    if (['props', 'propsData', 'attrs', 'inputs', 'componentInputs', 'componentProperties'].includes(key))
      addProps(value, given);
    if (key === 'slots') addSlots(value, given);
    if (
      ['stubs', 'global', 'scopedSlots', 'data', 'mixins', 'computed', 'mocks', 'on', 'shallow'].includes(key)
    )
      given.stubbed = true;
  }
  given.open ||= options.open;
  return given;
}

function addProps(value: Value, given: Given): void {
  if (value.is !== 'object') given.open = true;
  else {
    for (const [name, each] of value.entries) given.props.set(name, { expr: exprOfValue(each) });
    given.open ||= value.open;
  }
}

function addSlots(value: Value, given: Given): void {
  const place = { start: 0, end: 0 };
  const entries: (readonly [string, Value])[] =
    value.is === 'object' ? [...value.entries] : [['default', value]];
  for (const [name, content] of entries) {
    const text =
      content.is === 'constant' && typeof content.value === 'string' && !content.value.includes('<')
        ? content.value
        : undefined;
    const view: ViewNode =
      text === undefined
        ? { kind: 'hole', why: 'the content of a slot', place }
        : { kind: 'text', text: constant(text), place };
    given.slots.set(name === 'default' ? 'children' : `#${name}`, [view]);
  }
}
