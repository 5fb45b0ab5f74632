import {
  innerNodes,
  isProviderName,
  type Component,
  type ComponentNode,
  type ViewNode,
} from '../../components/view.js';
import { inFile, type FileContext } from '../questions/context.js';
import type { FileCheck } from '../questions/check.js';
import type { Finding, Span } from '../../finding.js';
import { listed } from '../../util/plural.js';
import { nearest } from '../../util/nearest.js';

const message = (component: string, props: readonly string[]): string =>
  `${component} is given ${listed(props.map((each) => `“${each}”`))}, and nothing in it reads ${props.length > 1 ? 'them' : 'that'}.`;
const adviceNear = (near: string): string => `It reads “${near}”: give it that, if it is what was meant.`;
const advice = 'Give it what it reads, or leave this out.';

/** A prop that a spec gives to a component which never reads it. */
export const B12: FileCheck = {
  code: 'B12',
  family: 'branches',
  scope: 'file',
  title: 'Prop that nobody reads',
  level: 'hint',
  why: 'The spec seems to set the scene, and shows the component as if nothing had been given.',
  certain: 'Sure where each use of the props of the component says which one it means.',
  trouble: 'render(<KilnLid onLift={lift} />); // function KilnLid({ temp, onOpen })',
  mended: 'render(<KilnLid onOpen={lift} />);',
  run(context) {
    const found = new Map<string, Given>();
    for (const render of context.file.renders)
      for (const node of rootsOf(render.view ?? [], context)) {
        const component = componentOf(node, context);
        if (!component || context.file.replaced.has(component.file)) continue;
        const props = unread(component, node);
        if (props.length === 0) continue;
        const key = `${component.file}\0${component.name}`;
        const known = found.get(key) ?? { component, props: new Set(), spans: new Set() };
        for (const prop of props) known.props.add(prop);
        known.spans.add(node.place);
        found.set(key, known);
      }
    return [...found.values()].map((each) => finding(each, context));
  },
};

// One that a module exports in a wrapper is another: that may read props of its own.
function componentOf({ ref }: ComponentNode, { project, file }: FileContext): Component | undefined {
  const component = ref && project.component(file.path, ref);
  const declared = ref && 'specifier' in ref ? project.imported(file.path, ref) : undefined;
  return declared === undefined || declared.name === component?.name ? component : undefined;
}

// The components that stand in no other one, in the markup of a spec and in that of components which it writes itself:
// who is given a component as a child may read what that was given, but for a provider. `owner`: the use of the component
// that the view is of, which may hand on what it is given.
function rootsOf(
  view: readonly ViewNode[],
  context: FileContext,
  isInside = false,
  within: readonly Component[] = [],
  owner?: ComponentNode,
): ComponentNode[] {
  return view.flatMap((node) => {
    if (node.kind !== 'component') return rootsOf(innerNodes(node), context, isInside, within, owner);
    const written = componentOf(node, context);
    const isOwn = written?.file === context.file.path && !within.includes(written);
    return [
      ...(isInside ? [] : [withHandedOn(node, owner)]),
      ...(isOwn ? rootsOf(written.view, context, false, [...within, written], node) : []),
      ...rootsOf(innerNodes(node), context, isInside || !isProviderName(node.name), within, owner),
    ];
  });
}

// `<Lid {...props} />` is given what its owner is, but for what that keeps.
function withHandedOn(node: ComponentNode, owner: ComponentNode | undefined): ComponentNode {
  const { rest } = node;
  if (!owner || rest === undefined) return node;
  const handed = [...owner.props].filter(([name]) => !rest.includes(name));
  return { ...node, place: owner.place, props: new Map([...handed, ...node.props]) };
}

/** What a component is given and never reads, and where specs do so. */
interface Given {
  component: Component;
  props: Set<string>;
  spans: Set<Span>;
}

function unread(component: Component, node: ComponentNode): string[] {
  const { takes, framework } = component;
  if (framework !== 'react' || !takes) return [];
  return [...node.props.keys()].filter(
    (prop) => !takes.has(prop) && !OF_FRAMEWORK.has(prop) && !isAskedFor(component, prop),
  );
}

// What the types ask for a spec must give, read or not.
function isAskedFor({ domains, required }: Component, prop: string): boolean {
  const domain = domains?.get(prop);
  return required?.has(prop) === true || (domain !== undefined && !domain.kinds.includes('undefined'));
}

const HANDLER = /^(?:on|handle)[A-Z]/;
const OF_FRAMEWORK: ReadonlySet<string> = new Set(['key', 'ref', 'children']);

function finding({ component, props, spans }: Given, context: FileContext): Finding {
  const [first = component.place, ...more] = spans;
  const names = [...props];
  const near = names.flatMap((each) => nearest(each, component.takes ?? []) ?? []).at(0);
  // Another name for what it reads, or a function that waits to be called: the spec goes by it.
  const isMeant = near !== undefined || names.some((each) => HANDLER.test(each));
  return {
    place: inFile(context, first),
    level: isMeant && component.file !== context.file.path ? 'risk' : 'hint',
    certainty: 'sure',
    message: message(component.name, names),
    advice: near === undefined ? advice : adviceNear(near),
    evidence: [
      { file: component.file, ...component.place, note: 'reads nothing of this name' },
      ...more.slice(0, 2).map((each) => ({ ...inFile(context, each), note: 'and here' })),
    ],
  };
}
