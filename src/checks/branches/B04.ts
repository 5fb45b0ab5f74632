import { USES } from '../questions/facts.js';
import {
  innerNodes,
  type Component,
  type ComponentNode,
  type Handler,
  type ViewNode,
} from '../../components/view.js';
import type { PageListener } from '../../components/opens.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { HEARD, isAskedOf } from '../questions/heard.js';
import { type Fired, elementKey, FIRED, mayFire, mayFireOnPage, neverPressed } from '../questions/fired.js';

const message = (event: string, tag: string, component: string): string =>
  `${component} handles “${event}” on its ${tag === '?' ? 'element' : `<${tag}>`}, and no spec that renders it fires that.`;
const messageHanded = (event: string, tag: string, prop: string, component: string): string =>
  `${component} calls “${prop}” at a “${event}” on its ${tag === '?' ? 'element' : `<${tag}>`}, and no spec that renders it fires that.`;
const messagePage = (event: string, component: string): string =>
  `${component} listens to “${event}” on the page, and no spec that renders it fires that.`;
const messageKeys = (keys: string, tag: string, component: string): string =>
  `${component} tells ${keys} from other keys on its ${tag === '?' ? 'element' : `<${tag}>`}, and no spec that renders it presses ${keys.includes(' and ') ? 'them' : 'it'}.`;
const advice = (act: string): string => `${act}, and assert on what comes of it.`;

/** An event that a component handles, and that no spec fires. */
export const B04: ProjectCheck = {
  code: 'B04',
  family: 'branches',
  scope: 'project',
  facts: [USES, FIRED, HEARD],
  title: 'Event that nobody fires',
  level: 'risk',
  why: 'A handler that no spec calls can do anything, or nothing, and all specs stay green.',
  certain: 'Likely at most: what an act reaches is worked out from its code, not measured.',
  trouble:
    "// <button onClick={() => setOpen(true)}>Open</button>\nit('shows the lid', () => {\n  render(<KilnLid temp={20} />);\n});",
  mended:
    "it('opens the lid', async () => {\n  render(<KilnLid temp={20} />);\n  await user.click(screen.getByRole('button', { name: 'Open' }));\n  …\n});",
  run: (context) =>
    context.components.flatMap((component) => {
      const files = context.specFilesOf(component);
      if (!files?.length) return [];
      const isOfPackage = ({ ref }: ComponentNode): boolean =>
        ref !== undefined && 'specifier' in ref && !context.project.component(component.file, ref);
      // Markup that a component shows in several places is written once.
      const handled = new Map(
        handlersIn(component.view, isOfPackage).map((each) => [each.handler.place.start, each]),
      );
      const fired = files.map((file) => file.get(FIRED));
      const unheard = (component.listens ?? []).filter(
        ({ event }) => ON_PAGE.has(event) && !fired.some((each) => mayFireOnPage(each, event)),
      );
      const onPage = unheard.map((each) => foundOnPage(each, component));
      const onElements = [...handled.values()].flatMap(({ handler, tag, start }) => {
        if (!isAsked(handler, component, files, context)) return [];
        if (!isFired(handler, start, component, fired)) return [found(handler, tag, component)];
        const key = elementKey(fileOf(component), start);
        // Called by its name, it may be handed any key.
        const isCalled = handler.names.some((name) => fired.some(({ members }) => members.has(name)));
        const missing = isCalled ? [] : neverPressed(fired, key, handler.keys);
        return missing.length > 0 ? [foundKeys(missing, handler, tag, component)] : [];
      });
      return [...onPage, ...onElements];
    }),
};

// What a user does, or that happens to the page as a whole.
const ON_PAGE: ReadonlyMap<string, string> = new Map([
  ['mousedown', 'Press the pointer somewhere else'],
  ['mouseup', 'Let go of the pointer somewhere else'],
  ['pointerdown', 'Press the pointer somewhere else'],
  ['touchstart', 'Touch the page somewhere else'],
  ['click', 'Click somewhere else'],
  ['keydown', 'Press the key'],
  ['keyup', 'Press the key'],
  ['resize', 'Fire it on the window'],
  ['scroll', 'Fire it on the window'],
  ['hashchange', 'Fire it on the window'],
  ['popstate', 'Fire it on the window'],
  ['storage', 'Fire it on the window'],
  ['online', 'Fire it on the window'],
  ['offline', 'Fire it on the window'],
  ['message', 'Fire it on the window'],
  ['visibilitychange', 'Fire it on the document'],
]);

const foundOnPage = ({ event, place }: PageListener, component: Component): Finding => ({
  place: { file: component.file, ...place },
  level: ACTS.has(event) || /down$|start$/.test(event) ? 'risk' : 'hint',
  certainty: 'likely',
  message: messagePage(event, component.name),
  advice: advice(ON_PAGE.get(event) ?? 'Fire it'),
  gap: { kind: 'event', component: component.name, event },
});

// That nobody asks of what is given is told of the prop, not of each event.
function isAsked(
  { prop }: Handler,
  component: Component,
  files: readonly SpecFileFacts[],
  context: ProjectContext,
): boolean {
  if (prop === undefined) return true;
  const heard = files.map((file) => file.get(HEARD));
  return isAskedOf(prop, context.usesOf(component), heard);
}

// Methods of these names hand the focus on; a spec that calls them is not seen to do so.
const HANDED_ON = ['focus', 'blur'];

function isFired(
  { event, names }: Handler,
  start: number,
  component: Component,
  all: readonly Fired[],
): boolean {
  if (names.some((name) => HANDED_ON.includes(name))) return true;
  const key = elementKey(fileOf(component), start);
  return all.some((fired) => mayFire(fired, key, event) || names.some((name) => fired.members.has(name)));
}

const fileOf = ({ templateFile, file }: Component): string => templateFile ?? file;

interface Handled {
  handler: Handler;
  tag: string;
  start: number;
}

function handlersIn(view: readonly ViewNode[], isOfPackage: (node: ComponentNode) => boolean): Handled[] {
  return view.flatMap((node) => {
    const isAsked = node.kind === 'element' || (node.kind === 'component' && isOfPackage(node));
    const own = isAsked ? (node.handlers ?? []) : [];
    const { place } = node;
    const tag = node.kind === 'element' ? node.tag : node.kind === 'component' ? node.name : '';
    // What a library may fire by itself is not for specs to fire.
    const asked = own.filter(({ event }) => ACTS.has(event));
    return [
      ...asked.map((handler) => ({ handler, tag, start: place.start })),
      ...handlersIn(innerNodes(node), isOfPackage),
    ];
  });
}

const ACTS: ReadonlyMap<string, string> = new Map([
  ['click', 'Click it'],
  ['dblclick', 'Double-click it'],
  ['submit', 'Submit it'],
  ['change', 'Change it'],
  ['input', 'Type into it'],
  ['keydown', 'Press a key in it'],
  ['keyup', 'Press a key in it'],
  ['focus', 'Focus it'],
  ['blur', 'Focus it and leave it'],
  ['mouseenter', 'Hover it'],
  ['mouseover', 'Hover it'],
  ['mouseleave', 'Hover it and leave it'],
  ['paste', 'Paste into it'],
]);

const shownKey = (key: string): string => `“${key === ' ' ? 'Space' : key}”`;

const foundKeys = (
  keys: readonly string[],
  { event, place }: Handler,
  tag: string,
  component: Component,
): Finding => ({
  place: { file: fileOf(component), ...place },
  level: 'hint',
  certainty: 'likely',
  message: messageKeys(keys.map(shownKey).join(' and '), tag, component.name),
  advice: advice(keys.length > 1 ? 'Press each of them in it' : 'Press it there'),
  gap: { kind: 'event', component: component.name, event },
});

const found = ({ event, place, prop }: Handler, tag: string, component: Component): Finding => ({
  place: { file: fileOf(component), ...place },
  level: prop === undefined ? 'risk' : 'hint',
  certainty: 'likely',
  message:
    prop === undefined
      ? message(event, tag, component.name)
      : messageHanded(event, tag, prop, component.name),
  advice: advice(ACTS.get(event) ?? 'Fire it'),
  gap: { kind: 'event', component: component.name, event },
});
