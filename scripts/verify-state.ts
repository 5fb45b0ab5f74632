// usage: npm run verify:state
// Runs small suites under Mocha in the written order, in reverse, and each spec alone. Those with a leak must have other
// results in at least one of them, Wexlet must report each, and once its mends are written the results must not differ.
// Those without one must have the same results everywhere, and Wexlet must be quiet. Needs the registry.
import { findingsOf, install, Judge, results, samples, wexlet, write, type Results } from './mocha-suites.js';

const FAMILIES = 'state,cleanup';

interface InAllOrders {
  written: Results;
  reverse: Results;
  alone: Results;
}

/** The results of the specs: in the written order, in reverse, and each alone. */
async function resultsInAllOrders(folder: string): Promise<InAllOrders> {
  const [written, reverse] = await Promise.all([results(folder, 'written'), results(folder, 'reverse')]);
  const alone = await Promise.all(Object.keys(written).map((title) => results(folder, 'alone', title)));
  return { written, reverse, alone: Object.assign({}, ...alone) as Results };
}

const differ = ({ written, reverse, alone }: InAllOrders): boolean =>
  Object.keys(written).some((title) => written[title] !== reverse[title] || written[title] !== alone[title]);

const root = install('state');
const judge = new Judge();
const count = { leaks: 0, differ: 0, reported: 0, mendable: 0, mended: 0, innocent: 0, same: 0, quiet: 0 };

for (const [i, { title, files }] of samples('state-suites/leaks.txt').entries()) {
  const folder = write(root, `leak-${i}`, files);
  const before = await resultsInAllOrders(folder);
  const found = await findingsOf(folder, FAMILIES);
  count.leaks++;
  count.differ += judge.tell(title, 'the results do not differ', differ(before));
  count.reported += judge.tell(title, 'not reported', found.length > 0);
  if (!found.every(({ mend }) => mend)) {
    console.log(`leak      ${title} (${found.map(({ code }) => code).join()}): no mend`);
    continue;
  }
  await wexlet(folder, 'mend', '--write', '--only', FAMILIES);
  const after = await resultsInAllOrders(folder);
  count.mendable++;
  count.mended += judge.tell(
    title,
    `the results differ after the mend: ${JSON.stringify(after)}`,
    !differ(after),
  );
  console.log(`leak      ${title} (${found.map(({ code }) => code).join()})`);
}

for (const [i, { title, files }] of samples('state-suites/innocent.txt').entries()) {
  const folder = write(root, `innocent-${i}`, files);
  count.innocent++;
  const outcome = await resultsInAllOrders(folder);
  const passes = Object.values(outcome.written).every((each) => each === 'passed');
  count.same += judge.tell(
    title,
    `the results differ or fail: ${JSON.stringify(outcome)}`,
    !differ(outcome) && passes,
  );
  count.quiet += judge.tell(title, 'reported', (await findingsOf(folder, FAMILIES)).length === 0);
  console.log(`innocent  ${title}`);
}

console.log(`
${count.leaks} suites with a leak: the results of ${count.differ} depend on the order, ${count.reported} are reported;
${count.mendable} can be mended, and the results of ${count.mended} are the same in any order after mend --write.
${count.innocent} suites without one: the results of ${count.same} are the same in any order, Wexlet is quiet on ${count.quiet}.`);
judge.close();
