// usage: npm run verify:cannot-fail
// Runs small specs under Mocha against a whole component, and against copies of it that are broken in three ways. Those that
// Wexlet says cannot fail must stay green in all of them; near misses, of which it says nothing above a hint, must be green
// with the whole component and red with at least one of the broken ones. Needs the registry.
import type { Sample } from '../test/support/samples.js';
import { findingsOf, install, Judge, results, samples, write } from './mocha-suites.js';

const root = install('cannot-fail', ['expect@30', 'chai@4', 'sinon@21']);
const [whole, ...broken] = samples('cannot-fail-suites/component.txt');
if (!whole) throw new Error('no component');
const components = [whole, ...broken];

/** Whether the spec passes with a component. */
async function run(
  name: string,
  spec: Sample,
  component: Sample,
): Promise<{ folder: string; green: boolean }> {
  const folder = write(root, name, [...component.files, ...spec.files]);
  const outcomes = Object.values(await results(folder, 'written'));
  return { folder, green: outcomes.length > 0 && outcomes.every((each) => each === 'passed') };
}

const isCalledSo = async (folder: string): Promise<boolean> =>
  (await findingsOf(folder, 'O04')).some(({ level }) => level !== 'hint');

const judge = new Judge();

async function prove(
  kind: 'hollow' | 'sound',
): Promise<{ specs: number; called: number; green: number; holds: number }> {
  const count = { specs: 0, called: 0, green: 0, holds: 0 };
  for (const [i, spec] of samples(`cannot-fail-suites/${kind}.txt`).entries()) {
    const runs = await Promise.all(
      components.map((component, at) => run(`${kind}-${i}-${at}`, spec, component)),
    );
    const [first, ...others] = runs;
    if (!first) continue;
    const red = others.filter(({ green }) => !green).length;
    const called = await isCalledSo(first.folder);
    count.specs++;
    count.green += judge.tell(spec.title, 'red with the whole component', first.green);
    count.called += judge.tell(
      spec.title,
      called ? 'called so' : 'not called so',
      called === (kind === 'hollow'),
    );
    count.holds += judge.tell(
      spec.title,
      `red ${red} times of ${broken.length}`,
      kind === 'hollow' ? red === 0 : red > 0,
    );
    console.log(`${kind.padEnd(7)} red ${red} of ${broken.length}  ${spec.title}`);
  }
  return count;
}

const hollow = await prove('hollow');
const sound = await prove('sound');
console.log(`
${hollow.specs} specs that can't fail: Wexlet says so of ${hollow.called}; ${hollow.holds} stay green with the component broken in ${broken.length} ways.
${sound.specs} near misses: Wexlet is quiet on ${sound.called}; ${sound.green} are green with the whole component, ${sound.holds} go red with a broken one.`);
judge.close();
