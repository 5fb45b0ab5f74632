import {
  titlesOf,
  hooksFor,
  usesInBlock,
  type Binding,
  type Block,
  type SpecFile,
} from '../../specs/model/blocks.js';
import { isAssert, stands } from '../../specs/model/rounds.js';
import type { StandIn, Step } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import type { Finding, Mend } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { surelyAssigns, usesBefore } from '../questions/leak.js';
import { declaredType, usedOutsideSpecs } from '../../writing/rebuild.js';

const message = (name: string): string =>
  `The first value of ${name} is never used: a hook assigns it anew before each spec.`;
const messageStandIn = (name: string): string =>
  `${name} is a stand-in that is handed to nobody, and nobody asks about its calls.`;
const messageLocal = (name: string, what: string): string =>
  `${name} ${what}, and this spec does nothing with it.`;
const messageUnasked = (name: string): string =>
  `${name} is handed on, and this spec never asks about its calls, as it does of its other stand-ins.`;
const adviceUnasked = 'Assert on its calls, or hand on none.';
const adviceLocal = 'Write the step that it was made for, or leave it out.';
const advice = 'Leave the value out of the declaration.';
const adviceStandIn = 'Hand it to what should call it and assert on that, or leave it out.';

/** A value that each-hooks replace before anybody uses it, a stand-in that nobody is given, or what a spec prepares in vain. */
export const S10: FileCheck = {
  code: 'S10',
  family: 'state',
  scope: 'file',
  title: 'Value that is never used',
  level: 'hint',
  why: 'Two places say how the value is made, and only one of them counts; or an act or an assertion was forgotten, and it stands there as if it were made.',
  certain: 'Sure where every use of the name is in sight: it is declared in this file.',
  trouble: 'let kiln = new Kiln();\nbeforeEach(() => { kiln = new Kiln(); });',
  mended: 'let kiln: Kiln;\nbeforeEach(() => { kiln = new Kiln(); });',
  run: (context) => [
    ...context.file.bindings
      .filter((binding) => isNeverUsed(binding, context))
      .map((binding): Finding => ({
        place: inFile(context, binding.place),
        within: titlesOf(binding.block),
        certainty: 'sure',
        message: message(binding.name),
        advice,
        evidence: assigning(binding, context.file).map((place) => ({
          ...inFile(context, place),
          note: 'assigned here before each spec',
        })),
        mend: mend(binding, context),
      })),
    ...idleStandIns(context.file).map((standIn): Finding => ({
      place: inFile(context, standIn.place),
      within: titlesOf(standIn.block),
      certainty: 'sure',
      message: messageStandIn(standIn.path ?? ''),
      advice: adviceStandIn,
    })),
    ...runningSpecs(context.file).flatMap((spec) => [...leftLying(spec, context), ...unasked(spec, context)]),
  ],
};

// What a spec looks up or writes out and then does nothing with: the act or the assertion was forgotten.
function leftLying(spec: Block, context: FileContext): Finding[] {
  return spec.locals.flatMap(({ name, value, ...place }) => {
    const what = preparedAs(value);
    const own = spec.statements.find((statement) => stands({ place }, statement));
    const isAlone = own?.declares.length === 1 && own.declares[0] === name && own.keyword === 'const';
    if (!what || !isAlone || spec.statements.some((each) => each !== own && each.uses.has(name))) return [];
    return [
      {
        place: inFile(context, place),
        within: titlesOf(spec),
        certainty: 'sure',
        message: messageLocal(name, what),
        advice: adviceLocal,
      },
    ];
  });
}

const FEWEST_ASKED = 3;

// One of several stand-ins that a spec hands on, of which it asks about all others: that assertion was forgotten.
function unasked(spec: Block, context: FileContext): Finding[] {
  const own = context.file.standIns.filter(
    ({ block, path, target }) => block === spec && target === 'none' && path,
  );
  const asked = askedAbout(spec.steps);
  const left = own.filter((each) => each.used && !each.answers && !asked.has(each));
  if (own.length - left.length < FEWEST_ASKED) return [];
  return left.map(({ place, path = '' }) => ({
    place: inFile(context, place),
    within: titlesOf(spec),
    certainty: 'likely',
    message: messageUnasked(path),
    advice: adviceUnasked,
  }));
}

const askedAbout = (steps: readonly Step[]): Set<StandIn | undefined> =>
  new Set(steps.filter(isAssert).map(({ assertion }) => libraryObjectOf(assertion.subject)?.standIn));

// A query that waits was asked for its waiting.
function preparedAs(value: Value): string | undefined {
  if (value.is === 'list') return value.items.length > 0 ? 'is written out' : undefined;
  if (value.is !== 'thing') return undefined;
  if (value.reach) return value.reach.waits ? undefined : 'is looked up';
  return value.type === 'set-up-user' ? 'is set up' : undefined;
}

// Stand-ins that go by a name of their own, of which nobody but its own settings says a word.
function idleStandIns({ blocks, root, standIns, said }: SpecFile): StandIn[] {
  const steps = [root, ...blocks].flatMap((block) => block.steps);
  const asked = askedAbout(steps);
  const own = new Set(steps.flatMap((step) => (step.kind === 'stand-in' && !step.via ? [step.standIn] : [])));
  return standIns.filter(
    (each) =>
      each.target === 'none' &&
      !each.used &&
      /^[\w$]+$/.test(each.path ?? '') &&
      own.has(each) &&
      !asked.has(each) &&
      // A function that is not followed may hand it on.
      (said().get(each.path ?? '') ?? 0) <= 1 + steps.filter((step) => tells(step, each)).length,
  );
}

const tells = (step: Step, standIn: StandIn): boolean =>
  (step.kind === 'answer' || step.kind === 'restore') &&
  step.standIn === standIn &&
  // What is told where it is made does not name it.
  step.place.start !== standIn.place.start;

// A plain first value may stand there for its type: `let count = 0`.
function isNeverUsed(binding: Binding, { file }: FileContext): boolean {
  const { declaration, kind, holds } = binding;
  if ((kind !== 'let' && kind !== 'var') || !declaration?.value || holds === 'constant' || holds === 'none')
    return false;
  if (usedOutsideSpecs(binding, file)) return false;
  const used = runningSpecs(file)
    .map((spec) => usesBefore(spec, binding))
    .filter((steps) => steps.length > 0);
  return (
    used.length > 0 &&
    used.every(([first]) => first !== undefined && surelyAssigns(first) && inHook(first, file))
  );
}

const inHook = (step: Parameters<typeof surelyAssigns>[0], file: SpecFile): boolean =>
  file.blocks.some((block) => block.hook === 'before-each' && block.steps.includes(step));

function assigning(binding: Binding, file: SpecFile) {
  const hooks = new Set(runningSpecs(file).flatMap((spec) => hooksFor(spec, 'before-each')));
  return [...hooks]
    .flatMap((hook) => usesInBlock(hook, binding).filter(surelyAssigns))
    .map(({ place }) => place);
}

function mend(binding: Binding, context: FileContext): Mend | undefined {
  const type = declaredType(binding, context);
  const { declaration } = binding;
  if (type === undefined || !declaration?.value) return undefined;
  return {
    summary: `Declare ${binding.name} without a value`,
    safe: true,
    edits: [{ file: context.file.path, start: binding.place.end, end: declaration.value.end, text: type }],
  };
}
