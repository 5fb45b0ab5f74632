import { functionKey } from '../../components/expr.js';
import type { Finding } from '../../finding.js';
import { ASKING_PRESENCE, asksWhether, eventAsked } from '../../specs/model/asked.js';
import { titlesOf, type SpecFile } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, StandIn } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import { fileFact, inFile } from './context.js';
import { takesHelpers } from './facts.js';

/** What the specs of a file ask of the events that components tell them. */
interface AskedOf {
  /** Events of which it is asked whether they come, each at the first assertion. */
  whether: ReadonlyMap<string, Whether>;
  /** Events of which more is asked, or may be. */
  whole: ReadonlySet<string>;
}

export type Whether = Pick<Finding, 'place' | 'within'>;

/** What the specs of a file ask of events, and of functions of other modules, as `module#name`; undefined where they may ask anything. */
export const ASKED_OF = fileFact('asked of events', (context): AskedOf | undefined => {
  if (takesHelpers(context)) return undefined;
  const { file } = context;
  const whether = new Map<string, Whether>();
  const times = new Map<string, number>();
  const whole = new Set<string>(file.listens);
  for (const block of file.blocks)
    for (const { assertion, via } of block.steps.filter(isAssert)) {
      const place = via ?? inFile(context, assertion.place);
      const add = (event: string): void => {
        if (!isDenied(assertion) && !whether.has(event))
          whether.set(event, { place, within: titlesOf(block) });
      };
      const standIn = libraryObjectOf(assertion.subject)?.standIn;
      const own = exportAsked(assertion.subject);
      if (standIn && asksWhether(assertion)) [...standIn.handedAs, ...exportsOf(standIn, file)].forEach(add);
      if (own !== undefined && asksWhether(assertion)) add(own);
      else if (own !== undefined) whole.add(own);
      const event = recordAsked(assertion);
      if (event === undefined) continue;
      times.set(event, (times.get(event) ?? 0) + 1);
      add(event);
    }
  const more = file.standIns
    .filter((each) => each.askedWith)
    .flatMap((each) => [...each.handedAs, ...exportsOf(each, file)]);
  const said = times.size > 0 ? file.said() : undefined;
  const elsewhere = [...times].flatMap(([event, asked]) => (asked === said?.get(event) ? [] : [event]));
  return { whether, whole: new Set([...whole, ...more, ...elsewhere]) };
});

// What an assertion about calls is of, where the set-up puts a stand-in in its place: `expect(fire).toHaveBeenCalled()`.
function exportAsked(subject: Value): string | undefined {
  if (subject.is === 'external') return functionKey(subject.module, subject.name);
  if (subject.is === 'project') return functionKey(subject.declared.file, subject.declared.name);
  return subject.is === 'read' ? exportAsked(subject.of) : undefined;
}

// What a stand-in stands for in other modules, as `module#name`.
function exportsOf(standIn: StandIn, { replacements }: SpecFile): string[] {
  const { replaces } = standIn;
  const handed = replacements.flatMap(({ file, specifier, standIns }) =>
    [...standIns].flatMap(([name, each]) => (each === standIn ? [functionKey(file ?? specifier, name)] : [])),
  );
  return replaces ? [functionKey(replaces.module, replaces.name), ...handed] : handed;
}

// The event of whose record an assertion asks only whether, or how often, it came: `expect(wrapper.emitted('fire')).toBeTruthy()`.
function recordAsked(assertion: Assertion): string | undefined {
  const { subject, matcher, asks } = assertion;
  const isLength = subject.is === 'read' && subject.name === 'length';
  const event = eventAsked(assertion);
  const last = assertion.subjectPath.at(isLength ? -2 : -1);
  const isWhole = last === 'emitted' || last === event;
  const isOpen = isLength || ASKING_PRESENCE.has(asks) || asks === 'count' || matcher === 'toHaveLength';
  return isWhole && isOpen ? event : undefined;
}

// What says that something is not there.
const OF_ABSENCE: ReadonlySet<Assertion['asks']> = new Set(['falsy', 'null', 'undefined'] as const);

// That it does not come, or that it comes no times.
const isDenied = ({ not, asks, matcher, args }: Assertion): boolean =>
  not !== OF_ABSENCE.has(asks) ||
  matcher === 'notCalled' ||
  args.some((each) => each.is === 'constant' && each.value === 0);

/**
 * Exports, as `module#name`, that the components of a file import and that it replaces without a further word: by the file
 * of the component, each with the place that replaces it.
 */
export const UNASKED = fileFact(
  'replaced, unasked',
  (context): ReadonlyMap<string, ReadonlyMap<string, Finding['place']>> => {
    const { file, rendering, project } = context;
    if (file.replacements.length === 0) return new Map();
    const unaskedIn = (path: string): Map<string, Finding['place']> => {
      const found = new Map<string, Finding['place']>();
      for (const { specifier, name, typeOnly } of project.summary(path)?.imports.values() ?? []) {
        const module = project.resolve(path, specifier) ?? specifier;
        const by = file.replacements.find((each) => (each.file ?? each.specifier) === module);
        // The factory names it once.
        const times = by?.automatic ? 0 : by?.plain.has(name) ? 1 : undefined;
        if (!by || typeOnly || times === undefined || (file.said().get(name) ?? 0) > times) continue;
        found.set(functionKey(module, name), inFile(context, by.place));
      }
      return found;
    };
    const files = new Set(file.renders.flatMap((render) => rendering.subject(render)?.file ?? []));
    return new Map([...files].map((path) => [path, unaskedIn(path)]));
  },
);
