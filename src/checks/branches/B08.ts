import { innerNodes, type Component, type ViewNode } from '../../components/view.js';
import type { Finding, Span } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact } from '../questions/context.js';
import { USES } from '../questions/facts.js';
import { kebabCase } from '../../util/case.js';

const message = (event: string, component: string): string =>
  `${component} tells others of “${event}”, and no spec that renders it listens.`;
const advice = (event: string): string =>
  `Listen for “${event}”, do what brings it about, and assert what comes with it.`;

/** All words that its code uses, in names and in literals; of no file that renders nothing with outputs. */
const WORDS = fileFact('words', ({ file, rendering, project }): ReadonlySet<string> | undefined => {
  // A helper may listen for it.
  if ([...file.imported].some((path) => project.summary(path)?.usesTestLibrary)) return undefined;
  const tells = file.renders.some((render) => (rendering.component(render)?.outputs?.size ?? 0) > 0);
  return tells ? file.words() : new Set();
});

/** An event that a component tells others of, and that no spec listens for. */
export const B08: ProjectCheck = {
  code: 'B08',
  family: 'branches',
  scope: 'project',
  facts: [USES, WORDS],
  title: 'Output that nobody listens to',
  level: 'hint',
  why: 'What a component tells others is half of what it is for. If it stops to, or tells the wrong thing, its own specs stay green.',
  certain: 'Likely at most: a spec that names the event anywhere counts as one that listens.',
  trouble:
    "// @Output() fired = new EventEmitter<number>();\nit('fires', () => {\n  fixture.debugElement.query(By.css('button')).nativeElement.click();\n  expect(fixture.componentInstance.cone).toBe(6);\n});",
  mended:
    "it('tells the cone when it fires', () => {\n  const fired = jest.fn();\n  fixture.componentInstance.fired.subscribe(fired);\n  fixture.debugElement.query(By.css('button')).nativeElement.click();\n  expect(fired).toHaveBeenCalledWith(6);\n});",
  run(context) {
    const heard = listenedIn(context.components);
    return context.components.flatMap((component) => {
      if (!component.outputs?.size || !context.isInSight(component)) return [];
      const specs = (context.specFilesOf(component) ?? []).filter((file) =>
        file.get(USES).some((use) => use.component === component && use.by === undefined),
      );
      const words = specs.map((file) => file.get(WORDS));
      if (words.length === 0 || words.includes(undefined)) return [];
      return [...component.outputs].flatMap(([event, place]) => {
        const names = namesOf(event);
        const isHeard = names.some((name) => heard.has(name) || words.some((own) => own?.has(name)));
        return isHeard ? [] : [found(event, place, component)];
      });
    });
  },
};

const found = (event: string, place: Span, { name, file }: Component): Finding => ({
  place: { file, ...place },
  certainty: 'likely',
  message: message(event, name),
  advice: advice(event),
  gap: { kind: 'output', component: name, event },
});

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
