import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { reachableFrom } from '../../project/reachable.js';
import { FRAMEWORK_ID, isFirst, type RunningId } from '../../project/running-ids.js';
import { snapshotsOf, storedSnapshots, type StoredSnapshot } from '../../specs/model/snapshots.js';
import type { StepOf } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import type { Place, Evidence, Finding } from '../../finding.js';
import { escaped } from '../../util/pattern.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs, withHooksBefore } from '../questions/order.js';

const message = (id: string, where: string): string =>
  `${where} holds ${id}, an id that is counted up with every render: it fits in this order of specs only.`;
const advice =
  'Make the id the same each time, by a stand-in for its maker in a before-each hook, or assert on what the title speaks of.';

/** A running number in what a spec expects. */
export const S11: FileCheck = {
  code: 'S11',
  family: 'state',
  scope: 'file',
  title: 'Stored snapshot holds a running number',
  level: 'risk',
  why: 'The number depends on how many components were rendered before: run alone, or with one more spec before it, the spec fails.',
  certain: 'Sure where the number stands in the stored snapshot itself.',
  trouble:
    'it(\'shows the lid\', () => {\n  expect(render(<Lid />).container).toMatchSnapshot(); // id="lid-7"\n});',
  mended: "expect(screen.getByRole('switch', { name: 'Lid' })).toBeChecked();",
  run(context) {
    const specs = runningSpecs(context.file).filter((spec) => expectations(spec).length > 0);
    if (specs.length === 0) return [];
    const ids = countedIds(context);
    if (ids.length === 0) return [];
    const stored = storedSnapshots(context.project, context.file.path);
    const [first] = runningSpecs(context.file).filter(renders);
    // The first render of a file starts from the same number, in this order and alone.
    return specs
      .filter((spec) => spec !== first || spec.repeated)
      .flatMap((spec) => check(spec, ids, stored, context));
  },
};

/** A running id with the module that makes it. */
interface Counted extends RunningId {
  file: string;
}

const renders = (spec: Block): boolean =>
  withHooksBefore(spec).some(({ steps }) => steps.some(({ kind }) => kind === 'render'));

function expectations(spec: Block): StepOf<'assert'>[] {
  return spec.steps.filter(
    (step): step is StepOf<'assert'> =>
      step.kind === 'assert' && (step.assertion.asks === 'snapshot' || literals(step).some(endsInNumber)),
  );
}

const literals = ({ assertion: { args } }: StepOf<'assert'>): string[] =>
  args.flatMap((each) => textOfValue(each) ?? []);

const endsInNumber = (text: string): boolean => /[a-z].*\d$/i.test(text) || FRAMEWORK_ID.test(text);

// The running ids of all modules that the spec file loads, but for those that it replaces.
function countedIds({ file, project }: FileContext): Counted[] {
  const { files } = reachableFrom(project, file.imported, file.replaced);
  const isReset = file.blocks.some(
    ({ hook, steps }) =>
      hook === 'before-each' &&
      steps.some(
        (step) =>
          (step.kind === 'use' && step.use.binding.file !== undefined && step.use.how === 'assign') ||
          (step.kind === 'restore' && step.scope === 'modules'),
      ),
  );
  const ids = isReset
    ? []
    : [...files].flatMap((path) =>
        (project.summary(path)?.runningIds ?? [])
          .filter(({ from }) => from === undefined || !file.replaced.has(from))
          .map((each) => ({ ...each, file: path })),
      );
  const replaced = file.standIns.some(({ member }) => member === 'useId') || file.replaced.has('react');
  return replaced ? ids.filter(({ prefix }) => prefix !== undefined) : ids;
}

function check(
  spec: Block,
  ids: readonly Counted[],
  stored: readonly StoredSnapshot[],
  context: FileContext,
): Finding[] {
  for (const step of expectations(spec)) {
    const { assertion } = step;
    const found =
      assertion.asks === 'snapshot'
        ? inSnapshot(spec, step, ids, stored, context)
        : literals(step)
            .filter((text) => !isGivenBySpec(text, context))
            .flatMap((text) => matched(`"${text}"`, ids) ?? [])
            .map((each) => ({ ...each, where: 'The expected text', at: undefined }))[0];
    if (!found || isAlone(found, stored)) continue;
    const { id, by, where, at } = found;
    const evidence: Evidence[] = [
      { file: by.file, ...by.place, note: 'counted up here' },
      ...(at ? [{ ...at, note: 'stored here' }] : []),
    ];
    return [
      {
        place: inFile(context, step.place),
        within: titlesOf(spec),
        certainty: by.prefix === undefined || at === undefined ? 'sure' : 'likely',
        message: message(id, where),
        advice,
        evidence,
      },
    ];
  }
  return [];
}

// The first number, while no other snapshot of the file has a later one: nobody else is known to count.
const isAlone = ({ id, by }: Pick<Match, 'id' | 'by'>, stored: readonly StoredSnapshot[]): boolean =>
  isFirst(id, by) && !stored.some(({ text }) => idsIn(text, by).some((each) => !isFirst(each, by)));

interface Match {
  id: string;
  by: Counted;
  where: string;
  at: Place | undefined;
}

function inSnapshot(
  spec: Block,
  { assertion }: StepOf<'assert'>,
  ids: readonly Counted[],
  stored: readonly StoredSnapshot[],
  context: FileContext,
): Match | undefined {
  if (assertion.matcher?.includes('Inline')) {
    const found = matched(assertion.argText, ids);
    return found && { ...found, where: 'The snapshot', at: undefined };
  }
  for (const each of snapshotsOf(spec, stored)) {
    const found = matched(each.text, ids);
    const text = context.project.optionalSource(each.place.file)?.text ?? '';
    const start = found ? text.indexOf(found.id, each.place.start) : -1;
    if (found)
      return {
        ...found,
        where: 'The stored snapshot',
        at: { file: each.place.file, start, end: start + found.id.length },
      };
  }
  return undefined;
}

// An id in quotes that one of the modules counts up.
function matched(text: string, ids: readonly Counted[]): { id: string; by: Counted } | undefined {
  for (const by of ids) {
    const [id] = idsIn(text, by);
    if (id !== undefined) return { id, by };
  }
  return undefined;
}

function idsIn(text: string, { prefix }: Counted): string[] {
  const pattern =
    prefix === undefined
      ? `"([^"\\s]*${FRAMEWORK_ID.source}[^"\\s]*)"`
      : `"(${escaped(prefix)}[\\w-]*?\\d+)"`;
  return [...text.matchAll(new RegExp(pattern, 'g'))].flatMap(([, id]) => id ?? []);
}

// An id that the spec writes down elsewhere, too, is one that it gives.
const isGivenBySpec = (text: string, { source, file }: FileContext): boolean =>
  source.text.split(text).length - 1 >
  file.blocks.reduce(
    (sum, { steps }) =>
      sum + steps.filter((step) => step.kind === 'assert' && literals(step).includes(text)).length,
    0,
  );
