import { blocksAround, titlesOf, type Block, type List } from '../../specs/model/blocks.js';
import { isAssert, stands } from '../../specs/model/rounds.js';
import type { Assertion } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = (count: number, name: string, isBeside: boolean): string =>
  `${count} is the length of ${name}, which stands ${isBeside ? 'beside' : 'in'} this spec: the two must be changed together.`;
const advice = (name: string): string => `Say ${name}.length.`;

/** Counts that are written out, though the data in the spec has them. */
export const O14: FileCheck = {
  code: 'O14',
  family: 'overload',
  scope: 'file',
  title: 'Figure that the data already holds',
  level: 'hint',
  why: 'A figure that is counted by hand goes wrong when the data gets another entry, and does not say where it comes from.',
  certain:
    'Sure where the figure and the list are both written out in the spec, likely where the list stands beside it.',
  trouble: "render(<Log rows={rows} />);\nexpect(screen.getAllByRole('row')).toHaveLength(3);",
  mended: "render(<Log rows={rows} />);\nexpect(screen.getAllByRole('row')).toHaveLength(rows.length);",
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

function check(spec: Block, context: FileContext): Finding[] {
  return spec.steps.filter(isAssert).flatMap(({ assertion, via }) => {
    const count = via ? undefined : countOf(assertion);
    const [list, other] = listsFor(spec).filter(({ length }) => length === count);
    const at = assertion.place.end - 1 - assertion.argText.length;
    // Of two lists of that length, either may be meant.
    if (!list?.name || !isHandedOn(list.name, spec) || other || count === undefined) return [];
    if (list.end > assertion.place.start) return [];
    const { name } = list;
    const isOwn = spec.lists.includes(list);
    const { text } = context.source;
    const isLast = text.slice(at, assertion.place.end - 1) === assertion.argText;
    return [
      {
        place: inFile(context, assertion.place),
        within: titlesOf(spec),
        certainty: isOwn ? 'sure' : 'likely',
        message: message(count, name, !isOwn),
        advice: advice(name),
        evidence: [{ ...inFile(context, list), note: `${count} entries` }],
        mend: isLast
          ? {
              summary: `Say ${name}.length`,
              safe: isOwn,
              edits: [
                {
                  file: context.file.path,
                  start: at,
                  end: assertion.place.end - 1,
                  text: `${name}.length`,
                },
              ],
            }
          : undefined,
      } satisfies Finding,
    ];
  });
}

// Its own lists, and those beside it that it hands on.
const listsFor = (spec: Block): List[] => [
  ...spec.lists,
  ...blocksAround(spec)
    .filter((block) => block !== spec)
    .flatMap(({ lists }) => lists)
    .filter(({ name }) => name !== undefined && isHandedOn(name, spec)),
];

// Only what the component is given can show in it.
const isHandedOn = (name: string, { statements, steps }: Block): boolean =>
  statements.some(
    (statement) =>
      statement.uses.has(name) &&
      steps.some((step) => (step.kind === 'render' || step.kind === 'act') && stands(step, statement)),
  );

// A number of elements, of two or more: none and one come without any data.
function countOf({ subject, subjectPath, asks, not, args, argText }: Assertion): number | undefined {
  const value = args.length === 1 && args[0]?.is === 'constant' ? args[0].value : undefined;
  const isCount = asks === 'count' || (asks === 'equal' && subjectPath.at(-1) === 'length');
  const reach = libraryObjectOf(subject)?.reach;
  if (not || !isCount || typeof value !== 'number' || value < 2 || argText !== String(value))
    return undefined;
  return reach?.missing === 'many' || reach?.missing === 'many-throws' ? value : undefined;
}
