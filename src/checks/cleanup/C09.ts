import { titlesOf, hooksFor, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = 'Requests are expected here, and nothing asks at the end whether others were made as well.';
const advice = 'Verify the requests in an after-each hook.';

/** Expected requests that are never verified. One finding a file. */
export const C09: FileCheck = {
  code: 'C09',
  family: 'cleanup',
  scope: 'file',
  title: 'Expected requests never verified',
  level: 'risk',
  why: 'A request that nobody expected stays open and unseen; the spec is green all the same.',
  certain: 'Sure where the expectation always stands, and every set-up file can be read.',
  trouble: "it('loads', () => {\n  service.load();\n  http.expectOne('/kilns').flush([]);\n});",
  mended: 'afterEach(() => {\n  http.verify();\n});',
  run(context) {
    const expected = runningSpecs(context.file).flatMap((spec) => {
      const steps = spec.steps.filter(isExpecting);
      return steps.length === 0 || isVerified(spec, context) ? [] : steps.map((step) => ({ spec, step }));
    });
    const [first] = expected;
    return first ? [found(first, expected, context)] : [];
  },
};

type Asserted = StepOf<'assert'>;

const isExpecting = (step: Step): step is Asserted =>
  step.kind === 'assert' && step.assertion.matcher === 'expectOne' && step.assertion.style === 'call';

function isVerified(spec: Block, { setup }: FileContext): boolean {
  const around = [...hooksFor(spec, 'before-each', 'after-each', 'after-all'), spec].flatMap(
    ({ steps }) => steps,
  );
  const isUnread = hooksFor(spec, 'after-each').some(({ steps }) =>
    steps.some(({ kind }) => kind === 'unknown-call'),
  );
  return (
    isUnread ||
    [...around, ...(setup?.steps ?? [])].some(
      (step) =>
        step.kind === 'assert' &&
        step.assertion.style === 'call' &&
        (step.assertion.matcher === 'verify' || step.assertion.matcher === 'expectNone'),
    )
  );
}

const found = (
  first: { spec: Block; step: Asserted },
  all: readonly { step: Asserted }[],
  context: FileContext,
): Finding => ({
  place: inFile(context, first.step.place),
  within: titlesOf(first.spec),
  certainty: first.step.maybe || context.setup === undefined ? 'likely' : 'sure',
  message,
  advice,
  evidence: all.slice(1).map(({ step }) => ({ ...truePlace(context, step), note: 'expected here, too' })),
});
