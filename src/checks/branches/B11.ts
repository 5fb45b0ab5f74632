import { propsInCondition } from '../../components/expr-names.js';
import { innerNodes, type Component, type ComponentNode, type ViewNode } from '../../components/view.js';
import type { Finding, Place } from '../../finding.js';
import type { Project } from '../../project/project.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import type { ComponentUse } from '../../rendering/uses.js';
import { isWorthASpec } from '../questions/arm-causes.js';
import { ARM_FACTS } from '../questions/answers.js';
import { grouped } from '../../util/grouped.js';
import { listed, plural } from '../../util/plural.js';

const message = (component: string, props: string, by: string): string =>
  `${by} gives ${component} ${props}, and no spec that renders it does.`;
const messageNobody = (component: string, props: string): string =>
  `${component} reads ${props}, which no spec gives.`;
const messageMany = (component: string, others: number, props: string): string =>
  `${component} and ${plural(others, 'other component')} read ${props}, which no spec gives any of them.`;
const advice = (props: string): string => `Give it ${props} in a spec, and assert on what that changes.`;

/** A prop that the project gives to a component, and no spec does; or that nobody gives. */
export const B11: ProjectCheck = {
  code: 'B11',
  family: 'branches',
  scope: 'project',
  facts: ARM_FACTS,
  title: 'Prop that no spec gives',
  level: 'hint',
  why: 'What the component does with it, nothing says: whoever gives it is the first to try.',
  certain: 'Likely at most: what specs give is worked out from their code.',
  trouble:
    "// shelf.tsx: <KilnLid temp={kiln.temp} unit={unit} />\nit('shows the temperature', () => { render(<KilnLid temp={20} />); … });",
  mended: 'it(\'shows it in Fahrenheit\', () => { render(<KilnLid temp={20} unit="F" />); … });',
  run(context) {
    const { components, project } = context;
    const given = givenBy(components, project);
    const deciding = decidingProps(context);
    const unasked: Unasked[] = [];
    const found = components.flatMap((component) => {
      const uses = context.usesOf(component);
      const isRendered = uses.some((use) => isGivenBySpec(use, component));
      if (!isRendered || !context.isInSight(component) || uses.some(({ open }) => open)) return [];
      const props = given.get(component) ?? new Map<string, Given>();
      const isMissing = (prop: string): boolean =>
        !uses.some((use) => use.given.has(prop)) &&
        !deciding.get(component)?.has(prop) &&
        isRead(component, prop);
      const missing = [...props].filter(
        // Whoever renders what gives it has given it, seen or not.
        ([prop, { by }]) => isMissing(prop) && context.usesOf(by).length === 0,
      );
      const ofGivers = [...grouped(missing, ([, { by }]) => by)].map(([by, own]): Finding => {
        const names = own.map(([prop]) => prop);
        const evidence = own.slice(0, 1).map(([, { place }]) => ({ ...place, note: 'given here' }));
        return { ...finding(component, names, (shown) => message(component.name, shown, by.name)), evidence };
      });
      const nobody = [...component.props.keys()].filter((prop) => !props.has(prop) && isMissing(prop));
      if (nobody.length > 0) unasked.push({ component, props: nobody });
      return ofGivers;
    });
    return [...found, ...[...grouped(unasked, ({ props }) => props.join()).values()].flatMap(saidOnce)];
  },
};

// Rendered by a spec, or by what stands beside it and hands on all that a spec gives.
const isGivenBySpec = ({ by, unseen, nodes = [] }: ComponentUse, { file }: Component): boolean =>
  !unseen && (by === undefined || (by === file && nodes.some(({ rest }) => rest !== undefined)));

/** A component with the props that it reads and nobody gives. */
interface Unasked {
  component: Component;
  props: readonly string[];
}

const FEWEST_ALIKE = 4;

// Many components that nobody gives the same, as the icons of a set: that is one thing to say.
function saidOnce(alike: readonly Unasked[]): Finding[] {
  const [first, ...others] = alike;
  if (!first) return [];
  if (alike.length < FEWEST_ALIKE)
    return alike.map(({ component, props }) =>
      finding(component, props, (shown) => messageNobody(component.name, shown)),
    );
  const say = (shown: string): string => messageMany(first.component.name, others.length, shown);
  const evidence = others.map(({ component: { file, place } }) => ({
    file,
    ...place,
    note: 'reads it, too',
  }));
  return [{ ...finding(first.component, first.props, say), evidence }];
}

const MOST_NAMED = 6;

function finding(component: Component, props: readonly string[], say: (shown: string) => string): Finding {
  const names = props.slice(0, MOST_NAMED).map((prop) => `“${prop}”`);
  const shown = listed(props.length > MOST_NAMED ? [...names, `${props.length - MOST_NAMED} more`] : names);
  return {
    place: { file: component.file, ...component.place },
    certainty: 'likely',
    message: say(shown),
    advice: advice(shown),
  };
}

// The props, by component, that arms hang on which no spec takes: those are told of for themselves.
function decidingProps(context: ProjectContext): ReadonlyMap<Component, ReadonlySet<string>> {
  const found = new Map<Component, Set<string>>();
  for (const gap of context.branches().gaps) {
    if (!isWorthASpec(gap)) continue;
    const { conditions, component } = gap;
    const known = found.get(component) ?? new Set();
    found.set(component, known);
    for (const { test } of conditions) propsInCondition(test, (prop) => known.add(prop));
  }
  return found;
}

// Functions that it only calls are outputs.
const isRead = ({ props, domains, outputs }: Component, prop: string): boolean =>
  (props.has(prop) || domains?.has(prop) === true) && !outputs?.has(prop) && !LEFT_OUT.test(prop);

const LEFT_OUT =
  /^(?:on[A-Z].*|handle[A-Z].*|set[A-Z].*|class|className|style|styles|id|key|ref|children|data-.*|aria-.*|.*[tT]est-?[iI]d)$/;

interface Given {
  by: Component;
  place: Place;
}

// What components of the project give to each other in their markup, by component and prop, at the first place.
function givenBy(components: readonly Component[], project: Project): Map<Component, Map<string, Given>> {
  const found = new Map<Component, Map<string, Given>>();
  const note = (node: ComponentNode, by: Component): void => {
    const component = node.ref && project.component(by.file, node.ref);
    if (!component || component === by) return;
    const known = found.get(component) ?? new Map<string, Given>();
    found.set(component, known);
    for (const name of node.props.keys())
      if (!known.has(name)) known.set(name, { by, place: { file: by.file, ...node.place } });
  };
  const visit = (view: readonly ViewNode[], by: Component): void => {
    for (const node of view) {
      if (node.kind === 'component') note(node, by);
      visit(innerNodes(node), by);
    }
  };
  for (const component of components) visit(component.view, component);
  return found;
}
