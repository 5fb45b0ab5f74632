import { askedForm, formOfValue } from '../../specs/model/asked.js';
import type { Block } from '../../specs/model/blocks.js';
import type { Render, Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { eachHooksAround, runningSpecs } from './order.js';
import { reachOf } from './used-reaches.js';

/** What a spec asserts of one render before anything is done to it: what is rendered, and each assertion, in a form that only the same has. */
interface AtFirst {
  spec: Block;
  rendered: string;
  asserted: ReadonlySet<string>;
  /** How many assertions there are, those that can't be compared as well. */
  count: number;
  /** It does no more than that. */
  isAll: boolean;
}

/** Of specs that only render and assert, each with another one that asserts all of it, and more, of the same render. */
export function assertedAgain({ file, source }: FileContext): { spec: Block; other: Block }[] {
  const all = runningSpecs(file).flatMap((spec) => atFirst(spec, source.text) ?? []);
  return all.flatMap((each) => {
    if (!each.isAll) return [];
    const other = all.find(
      ({ spec, rendered, asserted, count }) =>
        rendered === each.rendered &&
        (count > each.count || (count === each.count && spec.place.start < each.spec.place.start)) &&
        sameHooks(spec, each.spec) &&
        [...each.asserted].every((key) => asserted.has(key)),
    );
    return other ? [{ spec: each.spec, other: other.spec }] : [];
  });
}

function atFirst(spec: Block, text: string): AtFirst | undefined {
  if (spec.repeated || spec.maybe) return undefined;
  const steps = spec.steps.filter(({ kind }) => kind !== 'use');
  const [first] = steps;
  const rendered = first?.kind === 'render' && !first.maybe ? formOf(first.render, text) : undefined;
  if (rendered === undefined) return undefined;
  const quiet = steps.slice(1);
  const end = quiet.findIndex((step) => !isAsking(step));
  const keys = (end < 0 ? quiet : quiet.slice(0, end))
    .filter((step): step is StepOf<'assert'> => step.kind === 'assert')
    .map(assertionKey);
  if (keys.length === 0) return undefined;
  const known = keys.filter((key) => key !== undefined);
  return {
    spec,
    rendered,
    asserted: new Set(known),
    count: keys.length,
    isAll: end < 0 && known.length === keys.length,
  };
}

function sameHooks(a: Block, b: Block): boolean {
  const [ofA, ofB] = [eachHooksAround(a), eachHooksAround(b)];
  return ofA.length === ofB.length && ofA.every((hook, i) => hook === ofB[i]);
}

const isAsking = (step: Step): boolean =>
  (step.kind === 'reach' || step.kind === 'assert') &&
  !step.maybe &&
  !step.inCallback &&
  step.retried === undefined;

// Where it stands says nothing of what is shown; of what can't be read, no two are known to be the same. Markup that a spec
// writes itself is the same where it is written so: `<>Lid</>` is more to a component than it shows.
function formOf({ view, wrapper, name, file, place }: Render, text: string): string | undefined {
  if (!view || wrapper === 'unknown') return undefined;
  const code = text.slice(place.start, place.end).replace(/\s+/g, '');
  const [callee = ''] = code.split('(');
  const written = callee.split('.').at(-1) === name ? code : callee;
  let isKnown = true;
  const form = JSON.stringify([file, written, view, wrapper], (key, value: unknown) => {
    if (key === 'place') return undefined;
    isKnown &&= !(key === 'is' && value === 'unknown') && !(key === 'open' && value === true);
    return value instanceof Map ? [...(value as Map<string, unknown>)] : value;
  });
  return isKnown ? form : undefined;
}

function assertionKey({ assertion }: StepOf<'assert'>): string | undefined {
  const { subject, not, matcher, args } = assertion;
  const reach = subject.is === 'thing' ? reachOf(assertion) : undefined;
  const asked = reach && askedForm(reach);
  const values = args.map(formOfValue);
  if (asked === undefined || matcher === undefined || values.includes(undefined)) return undefined;
  return JSON.stringify([asked, not, matcher, values]);
}
