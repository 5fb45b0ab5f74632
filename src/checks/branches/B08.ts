import { innerNodes, type Component, type ViewNode } from '../../components/view.js';
import type { Finding, Span } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { specFilesRendering, USES } from '../questions/facts.js';
import { HEARD, isAskedOf } from '../questions/heard.js';
import { kebabCase } from '../../util/case.js';

const message = (event: string, component: string): string =>
  `${component} tells others of “${event}”, and no spec that renders it listens.`;
const messageProp = (prop: string, component: string): string =>
  `${component} calls what it is given as “${prop}”, and no spec that renders it asks whether it does.`;
const adviceProp = (prop: string): string =>
  `Give a stand-in as “${prop}”, do what brings the call about, and assert what comes with it.`;
const advice = (event: string): string =>
  `Listen for “${event}”, do what brings it about, and assert what comes with it.`;

/** An event that a component tells others of, and that no spec listens for. */
export const B08: ProjectCheck = {
  code: 'B08',
  family: 'branches',
  scope: 'project',
  facts: [USES, HEARD],
  title: 'Output that nobody listens to',
  level: 'hint',
  why: 'What a component tells others is half of what it is for. If it stops to, or tells the wrong thing, its own specs stay green.',
  certain:
    'Likely at most: a spec that names the event anywhere counts as one that listens; in React, one that gives a function, or asks of the stand-in that it gives.',
  trouble:
    "// @Output() fired = new EventEmitter<number>();\nit('fires', () => {\n  fixture.debugElement.query(By.css('button')).nativeElement.click();\n  expect(fixture.componentInstance.cone).toBe(6);\n});",
  mended:
    "it('tells the cone when it fires', () => {\n  const fired = jest.fn();\n  fixture.componentInstance.fired.subscribe(fired);\n  fixture.debugElement.query(By.css('button')).nativeElement.click();\n  expect(fired).toHaveBeenCalledWith(6);\n});",
  run(context) {
    const heard = listenedIn(context.components);
    return context.components.flatMap((component) => {
      if (!component.outputs?.size || !context.isInSight(component)) return [];
      const all = specFilesRendering(component, context).map((file) => file.get(HEARD));
      if (all.length === 0 || all.includes(undefined)) return [];
      const uses = context.usesOf(component);
      return [...component.outputs].flatMap(([event, place]) => {
        const isHeard =
          component.framework === 'react'
            ? isAskedOf(event, uses, all)
            : namesOf(event).some((name) => heard.has(name) || all.some((each) => each?.words.has(name)));
        return isHeard ? [] : [found(event, place, component)];
      });
    });
  },
};

function found(event: string, place: Span, { name, file, framework }: Component): Finding {
  const isProp = framework === 'react';
  return {
    place: { file, ...place },
    certainty: 'likely',
    message: isProp ? messageProp(event, name) : message(event, name),
    advice: isProp ? adviceProp(event) : advice(event),
    gap: { kind: 'output', component: name, event },
  };
}

// `kiln-fired`, `kilnFired`, `onKilnFired`; `update:cone` goes by `cone` as well.
function namesOf(event: string): string[] {
  const camel = event.replace(/[-:](\w)/g, (_, letter: string) => letter.toUpperCase());
  const both = event.replace(/^update:|Change$/, '');
  return [event, camel, kebabCase(camel), both, `on${camel.charAt(0).toUpperCase()}${camel.slice(1)}`];
}

// The events that components of the project listen for on others.
const listenedIn = (components: readonly Component[]): ReadonlySet<string> =>
  new Set(components.flatMap(({ view }) => view.flatMap(listened)));

const listened = (node: ViewNode): string[] => [
  ...(node.kind === 'component' ? node.events : []),
  ...innerNodes(node).flatMap(listened),
];
