import type { Finding } from '../../finding.js';
import { callForEffect } from '../../project/module-questions.js';
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
    'Likely at most: where nothing takes what the function gives, and every spec file that renders the component replaces it and never names it again.',
  trouble:
    "vi.mock('./api', () => ({ save: vi.fn() }));\nit('shows the kiln', () => {\n  render(<Kiln />);\n  expect(screen.getByText('Cone 6')).toBeVisible();\n});",
  mended:
    "it('saves the kiln', async () => {\n  render(<Kiln />);\n  await user.click(screen.getByRole('button', { name: 'Save' }));\n  expect(save).toHaveBeenCalledWith({ cone: 6 });\n});",
  run: (context) =>
    [...new Set(context.components.map(({ file }) => file))].flatMap((path) => inComponents(path, context)),
};

function inComponents(path: string, context: ProjectContext): Finding[] {
  const all = context.specFiles.flatMap((file) => file.get(UNASKED).get(path) ?? []);
  const [first, ...others] = all;
  return [...(first ?? [])].flatMap(([key, place]) => {
    const [module = '', name = ''] = key.split(' ');
    if (OF_NO_EFFECT.test(name) || !others.every((each) => each.has(key))) return [];
    const call = callForEffect(context.project, path, { module, name });
    const component = call && componentAround(path, call.start, context);
    return call && component
      ? [
          {
            place: { file: path, ...call },
            certainty: 'likely' as const,
            message: message(name, component),
            advice: advice(name),
            evidence: [{ ...place, note: 'replaced here' }],
          },
        ]
      : [];
  });
}

// What watches, or sets up the surroundings, is not what a component is there for.
const OF_NO_EFFECT = /^use[A-Z]|log|track|debug|warn|report|metric|init|regist|subscrib/i;

// The component whose code a place stands in: the last that begins before it.
const componentAround = (path: string, at: number, { components }: ProjectContext): string | undefined =>
  components.filter(({ file, place }) => file === path && place.start <= at).at(-1)?.name;
