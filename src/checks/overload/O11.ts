import { titlesOf, hooksFor, type Block, type Replacement } from '../../specs/model/blocks.js';
import { basename } from '../../util/paths.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { StandIn, StepOf } from '../../specs/model/steps.js';
import { settled, type Value } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs, withHooksBefore } from '../questions/order.js';

const messageReplaced = (name: string): string =>
  `${name}, which this file is named after, is replaced: its specs test the stand-in.`;
const messageGiven = 'All that this spec asserts is what it told a stand-in to give.';
const adviceReplaced = 'Replace what it needs, not what is tested.';
const adviceGiven =
  'Hand the stand-in to the component, and assert on what the component makes of the answer.';

/** Specs that test their own stand-ins. */
export const O11: FileCheck = {
  code: 'O11',
  family: 'overload',
  scope: 'file',
  title: 'The stand-in is what is tested',
  level: 'risk',
  why: 'A spec that asks a stand-in for the answer it was given passes whatever the component does.',
  certain: 'Sure where what is asserted is what the stand-in was told to give.',
  trouble: 'const load = vi.fn().mockReturnValue(6);\nexpect(load()).toBe(6);',
  mended:
    "render(<KilnCard load={vi.fn().mockReturnValue(6)} />);\nexpect(screen.getByText('Cone 6')).toBeInTheDocument();",
  run: (context) => [
    ...replacedSubject(context),
    ...runningSpecs(context.file).flatMap((spec) => givenBack(spec, context)),
  ],
};

// The module that the file is named after, wholly replaced.
function replacedSubject(context: FileContext): Finding[] {
  const { file } = context;
  const subject = stem(file.path);
  const found = file.replacements.find(
    (replacement) => !replacement.partial && isSubject(replacement, subject, context),
  );
  if (!found) return [];
  return [
    {
      place: inFile(context, found.place),
      certainty: 'likely',
      message: messageReplaced(basename(found.specifier)),
      advice: adviceReplaced,
    },
  ];
}

const stem = (path: string): string => (basename(path).split('.')[0] ?? '').toLowerCase();

// It is also what the specs import and put to use, and no other module that goes by the name is: `card.component` beside `card.api`.
function isSubject(
  { specifier, file: path }: Replacement,
  subject: string,
  { file, project, rendering }: FileContext,
): boolean {
  if (path === undefined || stem(path) !== subject) return false;
  const replaced = new Set(file.replacements.map((each) => each.file));
  const shown = file.renders.flatMap((render) => rendering.subject(render) ?? []);
  if (shown.some((component) => !replaced.has(component.file))) return false;
  const others = [...file.imports.values()].flatMap((imported) =>
    imported.typeOnly ? [] : (project.resolve(file.path, imported.specifier) ?? []),
  );
  if (others.some((other) => stem(other) === subject && !replaced.has(other))) return false;
  return [...file.imports.values()].some(
    (imported) => imported.specifier === specifier && !imported.typeOnly,
  );
}

function givenBack(spec: Block, context: FileContext): Finding[] {
  const asserts = spec.steps.filter(isAssert);
  const givers: StandIn[] = [];
  for (const step of asserts) {
    const giver = giverOf(step, spec);
    if (!giver) return [];
    givers.push(giver);
  }
  const [first] = asserts;
  if (!first) return [];
  return [
    {
      place: inFile(context, first.assertion.place),
      within: titlesOf(spec),
      certainty: 'sure',
      message: messageGiven,
      advice: adviceGiven,
      evidence: [...new Set(givers)].map(({ place }) => ({
        ...inFile(context, place),
        note: 'the stand-in',
      })),
    },
  ];
}

// The stand-in whose answer an assertion is about, called by the spec itself.
function giverOf({ assertion, via }: StepOf<'assert'>, spec: Block): StandIn | undefined {
  const { subject, subjectPath, subjectText, asks } = assertion;
  if (via || asks === 'called') return undefined;
  const given = standInBehind(subject);
  if (given && (given.answers || given.onceOnly || isToldWhat(given, spec))) return given;
  // `kiln.temp()`, of a member that the spec has replaced.
  if (subjectPath.length < 2 || !subjectText.endsWith(')')) return undefined;
  const path = subjectPath.join('.');
  return [spec, ...hooksFor(spec, 'before-all', 'before-each')]
    .flatMap(({ steps }) => steps.flatMap((step) => (step.kind === 'stand-in' ? [step.standIn] : [])))
    .find(
      ({ objectText, member, answers }) =>
        answers && member !== undefined && path === `${objectText}.${member}`,
    );
}

// It is told by the spec, or by a hook before it, what to give.
const isToldWhat = (standIn: StandIn, spec: Block): boolean =>
  withHooksBefore(spec).some(({ steps }) =>
    steps.some((step) => step.kind === 'answer' && isOf(step, standIn)),
  );

const isOf = ({ standIn, binding }: StepOf<'answer'>, given: StandIn): boolean =>
  standIn === given || (binding !== undefined && binding === given.binding);

function standInBehind(value: Value): StandIn | undefined {
  const at = settled(value);
  if (at.is === 'given') return at.by;
  if (at.is === 'thing') return at.hook;
  return at.is === 'read' ? standInBehind(at.of) : undefined;
}
