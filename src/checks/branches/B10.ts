import { importOfKey } from '../../components/expr.js';
import type { Finding, Place } from '../../finding.js';
import { callAtEvents, callForEffect } from '../../project/module-questions.js';
import { grouped } from '../../util/grouped.js';
import { UNASKED } from '../questions/asked-of-events.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';

const message = (name: string, component: string): string =>
  `${component} calls ${name}, and its specs put a stand-in in its place that none of them speaks of again.`;
const advice = (name: string): string =>
  `Do what has ${name} called, and assert what it is called with; let it fail as well.`;

/** A function that does something, that specs replace, and of which none asks. */
export const B10: ProjectCheck = {
  code: 'B10',
  family: 'branches',
  scope: 'project',
  facts: [UNASKED],
  title: 'Replaced, and never asked',
  level: 'hint',
  why: 'What a component has others do for it, as to save, is what it is there for. If it stops to, its specs stay green.',
  certain:
    'Likely at most: where nothing takes what the function gives, or only events of elements lead to it, and every spec file that renders the component replaces it and never names it again.',
  trouble:
    "vi.mock('./api', () => ({ save: vi.fn() }));\nit('shows the kiln', () => {\n  render(<Kiln />);\n  expect(screen.getByText('Cone 6')).toBeVisible();\n});",
  mended:
    "it('saves the kiln', async () => {\n  render(<Kiln />);\n  await user.click(screen.getByRole('button', { name: 'Save' }));\n  expect(save).toHaveBeenCalledWith({ cone: 6 });\n});",
  run(context) {
    const replaced = grouped(
      context.specFiles.flatMap((file) => [...file.get(UNASKED)]),
      ([path]) => path,
    );
    return [...replaced].flatMap(([path, all]) => {
      const [first, ...others] = all.map(([, keys]) => keys);
      return [...(first ?? [])].flatMap(([key, place]) =>
        others.every((each) => each.has(key)) ? inComponents(path, key, place, context) : [],
      );
    });
  },
};

function inComponents(path: string, key: string, place: Place, context: ProjectContext): Finding[] {
  const exported = importOfKey(key);
  if (!exported || OF_NO_EFFECT.test(exported.name)) return [];
  const { project } = context;
  const call = callForEffect(project, path, exported) ?? callAtEvents(project, path, exported);
  const component = call && componentAround(path, call.start, context);
  if (!call || !component) return [];
  return [
    {
      place: { file: path, ...call },
      certainty: 'likely',
      message: message(exported.name, component),
      advice: advice(exported.name),
      evidence: [{ ...place, note: 'replaced here' }],
    },
  ];
}

// What watches, or sets up the surroundings, is not what a component is there for.
const OF_NO_EFFECT = /^use[A-Z]|log|track|debug|warn|report|metric|init|regist|subscrib/i;

// The component whose code a place stands in: the last that begins before it.
const componentAround = (path: string, at: number, { components }: ProjectContext): string | undefined =>
  components.filter(({ file, place }) => file === path && place.start <= at).at(-1)?.name;
