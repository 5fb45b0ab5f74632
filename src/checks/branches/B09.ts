import { importOfKey } from '../../components/expr.js';
import type { Finding, Place, Span } from '../../finding.js';
import { callWithSomething, takenCallWithSomething } from '../../project/module-questions.js';
import { grouped } from '../../util/grouped.js';
import { kebabCase } from '../../util/case.js';
import { ASKED_OF, type Whether } from '../questions/asked-of-events.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { specFilesRendering, USES } from '../questions/facts.js';

const message = (event: string, component: string): string =>
  `${component} hands something over with “${event}”, and its specs ask only whether it does, or how often.`;
const messageCall = (name: string): string =>
  `${name} is called with something, and all that is asked of its stand-in is whether it is called, or how often.`;
const advice = 'Assert what comes with it as well: the wrong value would pass here.';

/** An event that comes with something, of which the specs ask only whether it comes. */
export const B09: ProjectCheck = {
  code: 'B09',
  family: 'branches',
  scope: 'project',
  facts: [USES, ASKED_OF],
  title: 'Told, and not asked what',
  level: 'hint',
  why: 'A callback that is called with the wrong thing, or with nothing, breaks whoever listens, and its specs stay green.',
  certain:
    'Likely at most: what other components do with it may be asserted there. Silent where a spec asks, or may ask, what the event comes with.',
  trouble: 'expect(onFire).toHaveBeenCalled();',
  mended: 'expect(onFire).toHaveBeenCalledWith({ cone: 6 });',
  run: (context) => [...outputs(context), ...functions(context)],
};

function outputs(context: ProjectContext): Finding[] {
  return context.components.flatMap((component) => {
    if (!component.outputs?.size) return [];
    const all = specFilesRendering(component, context).map((file) => file.get(ASKED_OF));
    if (all.includes(undefined)) return [];
    return [...component.outputs].flatMap(([event, { comesWith }]) => {
      const names = component.framework === 'react' ? [event] : [event, kebabCase(event)];
      const at = all.map((each) => names.map((name) => each?.whether.get(name)).find(Boolean)).find(Boolean);
      const isAsked = names.some((name) => all.some((each) => each?.whole.has(name)));
      return !comesWith || !at || isAsked
        ? []
        : [found(at, message(event, component.name), { file: component.file, ...comesWith })];
    });
  });
}

// Functions of other modules that what is rendered calls, and that a stand-in stands for.
function functions(context: ProjectContext): Finding[] {
  const rendering = renderingFiles(context);
  return context.specFiles.flatMap((file) => {
    const asked = file.get(ASKED_OF)?.whether ?? new Map<string, Whether>();
    const files = asked.size > 0 ? filesIn(file) : new Set<string>();
    return [...asked].flatMap(([key, at]) => {
      const call = callIn(context, files, key);
      const isAsked = rendering
        .get(call?.file ?? '')
        ?.some((each) => each.get(ASKED_OF)?.whole.has(key) !== false);
      return call && !isAsked ? [found(at, messageCall(importOfKey(key)?.name ?? key), call)] : [];
    });
  });
}

// The call of an export, or of a name that a component takes from what a hook gives it; its own outputs are told apart.
function callIn(
  { project, components }: ProjectContext,
  files: ReadonlySet<string>,
  key: string,
): Place | undefined {
  const exported = importOfKey(key);
  const isOutput = (path: string): boolean =>
    components.some(({ file, outputs }) => file === path && outputs?.has(key));
  for (const file of files) {
    const taken = (): Span | undefined =>
      isOutput(file) ? undefined : takenCallWithSomething(project, file, key);
    const call = exported ? callWithSomething(project, file, exported) : taken();
    if (call) return { file, ...call };
  }
  return undefined;
}

// The files of what a spec file renders, and the spec files that render each.
const filesIn = (file: SpecFileFacts): ReadonlySet<string> =>
  new Set(file.get(USES).map(({ component }) => component.file));

const renderingFiles = ({ specFiles }: ProjectContext): Map<string, SpecFileFacts[]> => {
  const pairs = specFiles.flatMap((file) => [...filesIn(file)].map((path) => ({ path, file })));
  return new Map(
    [...grouped(pairs, ({ path }) => path)].map(([path, all]) => [path, all.map(({ file }) => file)]),
  );
};

const found = (at: Whether, message: string, call: Place): Finding => ({
  ...at,
  certainty: 'likely',
  message,
  advice,
  evidence: [{ ...call, note: 'what it hands over' }],
});
