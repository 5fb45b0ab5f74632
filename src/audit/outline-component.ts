import { branchesOf } from '../branches/branches.js';
import { conditionsOf } from '../branches/arms.js';
import { markupOf } from '../checks/questions/element-markup.js';
import type { Domain } from '../components/domain.js';
import { constant, UNKNOWN } from '../components/expr.js';
import type { Component, ComponentNode, Prop, ViewNode } from '../components/view.js';
import { EARLY_RETURN, innerNodes } from '../components/view.js';
import type { Project } from '../project/project.js';
import { isInHidden } from '../rendering/hidden.js';
import { nameOf } from '../rendering/name.js';
import { rendered } from '../rendering/rendered.js';
import type { RenderedElement, RenderedTree } from '../rendering/rendered-tree.js';
import { bestHandle } from '../rendering/replacement.js';
import { roleOf } from '../rendering/role.js';
import { searchScope } from '../rendering/scope.js';
import { inputsInWords, valueText } from '../writing/inputs.js';
import { argsOf } from '../writing/rewrite.js';
import { kitQuery, queryKit } from '../writing/kit.js';
import { grouped } from '../util/grouped.js';
import { inShort } from '../util/printable.js';
import { shownName } from './shown-name.js';

/** What there is to know of one component before a spec is written. Lines count from 1. */
export interface OutlinedComponent {
  name: string;
  line: number;
  props: { name: string; values: string; default?: string }[];
  elements: OutlinedElement[];
  arms: { line: number; arm: string; when: string }[];
}

/** One element that it writes, or that its children do. */
export interface OutlinedElement {
  file: string;
  line: number;
  markup: string;
  role?: string;
  name?: string;
  /** The conditions that it stands under, outer first. */
  when: string[];
  repeated: boolean;
  /** Events that it handles. */
  events: string[];
  /** The query that finds this element and no other. */
  query?: string;
}

type Kit = { modules: readonly string[] };

/** The elements of a component with the queries that reach them, its props with what they may be, and its arms. */
export function outlinedComponent(
  component: Component,
  project: Project,
  {
    modules,
    testIdAttribute,
    relative,
  }: Kit & { testIdAttribute: string; relative: (file: string) => string },
): OutlinedComponent {
  const { file, name, place } = component;
  const node: ComponentNode = {
    kind: 'component',
    name,
    ref: { local: name },
    place,
    props: usualProps(component),
    open: false,
    events: [],
    slots: new Map(),
  };
  const tree = rendered(project, { file, view: [node], everything: true });
  // Names are said in the words that stand in the code; whether specs find them by these, or by keys, is not told here.
  const spoken = rendered(project, { file, view: [node], everything: true, spoken: 'words' });
  const told = spoken.elements.length === tree.elements.length ? spoken : tree;
  const handlers = handlersOf(component.view);
  const lineOf = (path: string, at: number): number => project.source(path)?.lines.at(at).line ?? 0;
  return {
    name,
    line: lineOf(file, place.start),
    props: propsOf(component),
    elements: onceEach(
      tree.elements
        .map((element, i) => ({ element, inWords: told.elements[i] ?? element }))
        .filter(({ element }) => isWorthALine(element, handlers))
        .map(({ element, inWords }) => {
          // Of what a package shows, the project knows where it uses it.
          const { file: from, start } = element.usedAt ?? { file: element.file, start: element.place.start };
          return {
            file: relative(from),
            line: lineOf(from, start),
            ...described(inWords, told),
            events: handlers.get(element.place.start) ?? [],
            query: queryFor(element, tree, { modules, testIdAttribute, project }),
          };
        }),
    ),
    arms: branchesOf(project, project.summary(file)?.components ?? [component])
      .branches.filter(
        ({ component: owner, branch }) =>
          owner === component &&
          branch.kind !== 'default' &&
          branch.kind !== 'optional' &&
          !branch.inAttribute,
      )
      .flatMap(({ branch }) =>
        branch.arms
          .filter((arm) => arm.written && conditionsOf(branch, arm).length > 0)
          .map((arm) => ({
            line: lineOf(arm.place.file, arm.place.start),
            arm: arm.arm,
            when: inputsInWords(conditionsOf(branch, arm)),
          })),
      ),
  };
}

// One element that stands in several arms, of which only one is shown: on each of them, what all say.
function onceEach(elements: readonly OutlinedElement[]): OutlinedElement[] {
  const same = ({ file, line, markup, role, name }: OutlinedElement): string =>
    [file, line, markup, role, name].join('\n');
  return [...grouped(elements, same).values()].flatMap(([first, ...others]) =>
    first
      ? {
          ...first,
          when: first.when.filter((each) => others.every(({ when }) => when.includes(each))),
          query: others.every(({ query }) => query === first.query) ? first.query : undefined,
        }
      : [],
  );
}

// What it is given here: its defaults, as far as they are texts, and else anything that it knows by name.
function usualProps({ props, domains }: Component): Map<string, Prop> {
  const known = [...props.keys(), ...(domains?.keys() ?? []), 'children'];
  return new Map(
    known.map((name) => {
      const usual = DECIDING.has(name) ? (props.get(name) ?? constant(undefined)) : props.get(name);
      const isText = usual?.is === 'constant' && (typeof usual.value === 'string' || DECIDING.has(name));
      return [name, { expr: isText ? usual : UNKNOWN }];
    }),
  );
}

const DECIDING: ReadonlySet<string> = new Set(['role', 'type']);

// What has a role, a text or a handler is what specs reach for.
const isWorthALine = (element: RenderedElement, handlers: ReadonlyMap<number, string[]>): boolean =>
  element.tag !== '?' &&
  (handlers.has(element.place.start) ||
    ((roleOf(element) ?? '') !== '' && !WRAPPING.has(roleOf(element) ?? '')) ||
    element.children.some(({ kind }) => kind === 'text'));

const WRAPPING: ReadonlySet<string> = new Set(['generic', 'rowgroup', 'presentation', 'none']);

function described(
  element: RenderedElement,
  tree: RenderedTree,
): Pick<OutlinedElement, 'markup' | 'role' | 'name' | 'when' | 'repeated'> {
  const role = roleOf(element) ?? undefined;
  const name = nameOf(element, tree);
  return {
    markup: markupOf(element),
    role: isInHidden(element) === true ? undefined : role,
    name: role === undefined ? undefined : name ? shownName(name) : '…',
    when: [...new Set(element.guards)]
      .filter((guard) => guard !== 'for each')
      .map((guard) => (guard === EARLY_RETURN ? 'behind an early return' : `when ${inShort(guard, 60)}`)),
    repeated: element.repeated,
  };
}

function queryFor(
  element: RenderedElement,
  tree: RenderedTree,
  { modules, testIdAttribute, project }: Kit & { testIdAttribute: string; project: Project },
): string | undefined {
  const handle = bestHandle(element, { ...searchScope(tree), complete: true }, testIdAttribute);
  if (!handle?.unique || element.repeated) return undefined;
  const page = queryKit({ modules, project })?.page;
  const name = kitQuery({ modules, project }, handle.by, 'throws');
  return page && name && `${page}.${name}(${argsOf(handle, "'")})`;
}

function handlersOf(view: readonly ViewNode[]): Map<number, string[]> {
  const found = new Map<number, string[]>();
  for (const node of view) {
    if (node.kind === 'element' && node.handlers?.length)
      found.set(
        node.place.start,
        node.handlers.map(({ event }) => event),
      );
    for (const [at, events] of handlersOf(innerNodes(node))) found.set(at, events);
  }
  return found;
}

const propsOf = ({ props, domains }: Component): OutlinedComponent['props'] =>
  [...props].map(([name, fallback]) => ({
    name,
    values: domainText(domains?.get(name)),
    default: fallback?.is === 'constant' ? valueText(fallback.value ?? null) : undefined,
  }));

const MOST_VALUES = 8;

function domainText(domain: Domain | undefined): string {
  if (!domain || domain.kinds.includes('anything')) return 'anything';
  const values = domain.values.map((value) => valueText(value as Parameters<typeof valueText>[0]));
  const kinds = domain.kinds.filter((kind) => kind !== 'undefined');
  const shown = [...values.slice(0, MOST_VALUES), ...(values.length > MOST_VALUES ? ['…'] : []), ...kinds];
  return shown.join(' | ') || 'nothing';
}
