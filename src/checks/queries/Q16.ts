import { isInside } from '../../util/spans.js';
import { titlesOf } from '../../specs/model/blocks.js';
import { askedForm, formOfValue, nameOption } from '../../specs/model/asked.js';
import type { Reach, Step } from '../../specs/model/steps.js';
import { textOfValue, type Value } from '../../specs/model/values.js';
import { grouped } from '../../util/grouped.js';
import { inShort } from '../../util/printable.js';
import type { FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { foundElsewhere, type Elsewhere } from '../questions/found-elsewhere.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';
import { assertsAbsence, foundBy, reachOf } from '../questions/used-reaches.js';

const messageOther = (asked: string, found: string): string =>
  `${asked} is asserted to be missing, and nothing in this file ever finds it: what is found is ${found}, which takes more than these words alone.`;
const messageNever = (asked: string): string =>
  `${asked} is asserted to be missing, and nothing in this file ever finds it: a slip in it would never show.`;
const messageElsewhere = (asked: string, own: string, other: string): string =>
  `${asked} is asserted to be missing from ${own}, and only specs that render ${other} ever find it.`;
const adviceElsewhere = (other: string): string =>
  `Render ${other} here as well, or ask for what the other one shows.`;
const adviceOther = (found: string): string => `Ask for its absence in the same words: ${found}.`;
const adviceNever = 'Assert it where it is shown, in the same words, in a spec beside this one.';

/** The absence of what no spec of the file ever finds. */
export const Q16: FileCheck = {
  code: 'Q16',
  family: 'queries',
  scope: 'file',
  title: 'Missing, and never found',
  level: 'hint',
  why: 'A query that can find nothing is always right about what is missing: only one that finds something elsewhere says so.',
  certain: 'Likely at most: it may find something in a state that no spec of the file brings about.',
  trouble:
    "expect(screen.getByText(/hot/i)).toBeVisible(); // “Kiln: hot”\n…\nexpect(screen.queryByText('Hot')).not.toBeInTheDocument();",
  mended: 'expect(screen.queryByText(/hot/i)).not.toBeInTheDocument();',
  run(context) {
    const blocks = runningBlocks(context.file);
    const found = blocks.flatMap(({ steps }) => steps.flatMap(foundBy));
    const byForm = grouped(found, askedForm);
    const missing = blocks.flatMap(({ steps }) => steps.flatMap(missedBy));
    const never: Finding[] = [];
    const others: Finding[] = [];
    for (const reach of missing) {
      const form = askedForm(reach);
      const words = wordsOf(reach);
      // What a helper of another module asks for, other spec files find.
      const isOfHelper = reach.via !== undefined && reach.via.file !== context.file.path;
      if (form === undefined || words === undefined || isOfHelper) continue;
      const same = byForm.get(form);
      const elsewhere = same && foundElsewhere(reach, same, context);
      const wider = same ? undefined : widerOf(reach, found);
      const isSuspect = same ? elsewhere : (wider ?? !isWritten(words, missing, context));
      if (!isSuspect || mayShow(reach, context)) continue;
      if (elsewhere) others.push(ofOther(reach, elsewhere, context));
      else (wider ? others : never).push(finding(reach, wider, context));
    }
    return [...others, ...onceAFile(never, 'nor this')];
  },
};

function ofOther(reach: Reach, { own, other, reach: found }: Elsewhere, context: FileContext): Finding {
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: 'likely',
    message: messageElsewhere(shown(reach), own, other),
    advice: adviceElsewhere(other),
    evidence: [{ ...inFile(context, found.place), note: `found here, in ${other}` }],
  };
}

function finding(reach: Reach, wider: Reach | undefined, context: FileContext): Finding {
  const asked = shown(reach);
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: 'likely',
    level: wider ? 'risk' : undefined,
    message: wider ? messageOther(asked, shown(wider)) : messageNever(asked),
    advice: wider ? adviceOther(shown({ ...wider, name: reach.name })) : adviceNever,
    evidence: wider ? [{ ...inFile(context, wider.place), note: 'found here' }] : [],
  };
}

function missedBy(step: Step): Reach[] {
  const reach =
    step.kind === 'assert' && assertsAbsence(step.assertion) ? reachOf(step.assertion) : undefined;
  return reach ? [reach] : [];
}

const mayShow = (reach: Reach, { rendering }: FileContext): boolean =>
  rendering.underAnyCondition.target(reach).kind !== 'unknown';

// The spec file has the words from elsewhere than from what it misses and from titles: gives them, or finds them otherwise.
function isWritten(words: string, missing: readonly Reach[], { file }: FileContext): boolean {
  const left = [
    ...missing.map(({ place }) => place),
    ...file.blocks.flatMap(({ titlePlace }) => titlePlace ?? []),
  ];
  return [file.root, ...file.blocks].some(({ statements }) =>
    statements.some(({ literals }) =>
      literals.some(
        (literal) =>
          literal.text.toLowerCase().includes(words) && !left.some((place) => isInside(literal, place)),
      ),
    ),
  );
}

// The words that are asked for, where a slip could stand in them: a role alone has none.
function wordsOf(reach: Reach): string | undefined {
  const said = reach.by === 'role' ? nameOption(reach) : reach.args[0];
  const words = said?.is === 'pattern' ? said.source : textOfValue(said);
  return words !== undefined && WORDS.test(words) ? words.toLowerCase() : undefined;
}

// Patterns of plain words, too.
const WORDS = /^\^?[\p{L}\d][\p{L}\d ,.:'’!?-]{3,}\$?$/u;

// What is found in this file only in a wider form than it is missed in.
function widerOf(reach: Reach, found: readonly Reach[]): Reach | undefined {
  const alike = found.filter(({ by }) => by === reach.by);
  const pattern = alike.find((other) => isPatternOf(other, reach));
  if (pattern) return pattern;
  const text = shapeOf(reach);
  if (text === undefined || !text.includes('0')) return undefined;
  const shapes = alike.map((other) => [other, shapeOf(other)] as const);
  return shapes.some(([, shape]) => shape === text)
    ? undefined
    : shapes.find(([, shape]) => shape?.startsWith(text))?.[0];
}

// A text as it is asked for, with its figures made alike: “B-002” and what begins with “B-001 | 10 kg” are of one shape.
function shapeOf({ args: [value, options] }: Reach): string | undefined {
  const text = value?.is === 'text' ? value.pieces[0] : textOfValue(value);
  return options || text === undefined ? undefined : text.replace(/\d/g, '0');
}

// The words of a text, found elsewhere by a pattern of them.
function isPatternOf(other: Reach, { args: [text] }: Reach): boolean {
  const [pattern] = other.args;
  return (
    text?.is === 'constant' &&
    typeof text.value === 'string' &&
    pattern?.is === 'pattern' &&
    pattern.source.toLowerCase() === text.value.toLowerCase()
  );
}

const shown = ({ name, args }: Reach): string =>
  `${name}(${inShort(args.map((each) => formOfValue(each) ?? textShown(each)).join(', '), 50)})`;

const textShown = (value: Value): string =>
  value.is === 'text' ? `\`${value.pieces.map((piece) => piece ?? '${…}').join('')}\`` : '';
