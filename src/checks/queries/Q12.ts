import { titlesOf } from '../../specs/model/blocks.js';
import { type ComponentNode, type Component, type ViewNode, innerNodes } from '../../components/view.js';
import type { Render } from '../../specs/model/steps.js';
import { kebabCase } from '../../util/case.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { assertsAbsence } from '../questions/used-reaches.js';

const message = (children: readonly string[], renders: number): string =>
  `${children.join(', ')} ${children.length === 1 ? 'is' : 'are'} not rendered in ${plural(renders, 'render')}: what ${children.length === 1 ? 'it shows' : 'they show'} is never tried together with the component.`;
const messageAbsent = (child: string): string =>
  `It is “not there” because ${child} is not rendered, whatever the component does.`;
const advice = (name: string): string =>
  `Render all of it with ${name}; replace only what is slow or talks to others.`;

/** Children replaced by empty stand-ins, so that specs see a part of what a user sees. */
export const Q12: FileCheck = {
  code: 'Q12',
  family: 'queries',
  scope: 'file',
  title: 'Children are not rendered',
  level: 'risk',
  why: 'A spec of a component without its children passes when props and events between them no longer fit.',
  certain:
    'Sure where a child of the project is left out by the render itself; that something is “not there” for want of it is likely.',
  trouble: 'const wrapper = shallowMount(KilnCard);',
  mended: 'const wrapper = mount(KilnCard);',
  run(context) {
    return [...absences(context), ...hints(context)];
  },
};

// What is asserted to be gone, and would be there if the children were.
function absences(context: FileContext): Finding[] {
  return context.used.flatMap(({ reach, step }): Finding[] => {
    const { from } = reach;
    if (
      step.kind !== 'assert' ||
      !assertsAbsence(step.assertion) ||
      typeof from !== 'object' ||
      !('teardown' in from)
    )
      return [];
    const children = leftOut(from, context);
    // The stand-in of a child has the attributes that the child would be given.
    if (children.length === 0 || context.rendering.underAnyCondition.mayFind(reach)) return [];
    const whole = context.rendering.withChildren.target(reach);
    const child = whole.kind === 'one' ? whole.element.component : undefined;
    if (whole.kind !== 'one' || !child || !children.includes(child)) return [];
    return [
      {
        place: inFile(context, reach.place),
        within: titlesOf(reach.block),
        certainty: 'likely',
        message: messageAbsent(child.name),
        advice: advice(wholeName(from)),
        evidence: [{ file: whole.element.file, ...whole.element.place, note: `stands in ${child.name}` }],
      },
    ];
  });
}

// One hint a file: the renders leave out children that belong to the project.
function hints(context: FileContext): Finding[] {
  const renders = context.file.renders.filter((render) => leftOut(render, context).length > 0);
  const [first] = renders;
  if (!first) return [];
  const children = [...new Set(renders.flatMap((render) => leftOut(render, context)))];
  return [
    {
      place: inFile(context, first.place),
      within: titlesOf(first.block),
      level: 'hint',
      certainty: 'sure',
      message: message(children.map(({ name }) => name).slice(0, 4), renders.length),
      advice: advice(wholeName(first)),
      evidence: [
        ...children
          .slice(0, 3)
          .map(({ name, file, place }) => ({ file, ...place, note: `${name} is left out` })),
        ...renders.slice(1).map(({ place }) => ({ ...inFile(context, place), note: 'left out here, too' })),
      ],
    },
  ];
}

const wholeName = ({ name }: Render): string =>
  name === 'shallowMount' || name === 'shallow' ? 'mount' : name;

// The children, in the component's own view, that are components of the project and are replaced.
function leftOut(render: Render, { rendering, project }: FileContext): Component[] {
  const { shallow, stubs } = render;
  const component = shallow || stubs.size > 0 ? rendering.component(render) : undefined;
  if (!component) return [];
  return componentsIn(component.view).flatMap((child) => {
    const found = child.ref && project.component(component.templateFile ?? component.file, child.ref);
    const isOut = shallow || stubs.has(kebabCase(child.name)) || (found && stubs.has(kebabCase(found.name)));
    return found && isOut ? [found] : [];
  });
}

const componentsIn = (view: readonly ViewNode[]): ComponentNode[] =>
  view.flatMap((node) => [...(node.kind === 'component' ? [node] : []), ...componentsIn(innerNodes(node))]);
