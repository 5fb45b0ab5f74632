import type { ProjectCheck } from '../questions/check.js';
import { USES } from '../questions/facts.js';
import { SIGHT } from '../questions/sight.js';
import { keysAround } from '../questions/given-data.js';
import { SHOWN_DATA, type ShownDatum } from '../questions/shown-data.js';
import { componentKey, type Component } from '../../components/view.js';
import type { Finding } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { listed } from '../../util/plural.js';

const message = (component: string, data: string, it: string): string =>
  `Specs give ${component} ${data} to show, and none asks for ${it}.`;
const advice = (data: string): string => `Assert that ${data} can be seen.`;

/** What specs give, a component shows, and no spec asks for. */
export const B13: ProjectCheck = {
  code: 'B13',
  family: 'branches',
  scope: 'project',
  facts: [SHOWN_DATA, SIGHT, USES],
  title: 'Given, shown, and never asked for',
  level: 'hint',
  why: 'Left out, or put in the wrong place, it would turn no spec red.',
  certain: 'Likely at most: what specs ask for is worked out from their code.',
  trouble:
    "it('shows the kiln', () => {\n  render(<KilnCard name=\"Bertha\" temp={900} />);\n  expect(screen.getByText('Bertha')).toBeVisible();\n});",
  mended: "  expect(screen.getByText('900 °C')).toBeVisible();",
  run(context) {
    const all = context.specFiles.flatMap((file) => file.get(SHOWN_DATA).unasked);
    const byComponent = grouped(all, ({ component }) => component);
    // What a component shows that has specs of its own is for those to say.
    const rendered = new Set(
      context.components
        .filter((component) => context.usesOf(component).some((use) => use.by === undefined && !use.unseen))
        .map(componentKey),
    );
    return context.components.flatMap((component) => {
      const key = componentKey(component);
      const unasked = byComponent.get(key) ?? [];
      const facts =
        unasked.length === 0 ? [] : context.specFilesOf(component)?.map((file) => file.get(SHOWN_DATA));
      if (!facts?.length || context.usesOf(component).some(({ open }) => open)) return [];
      const asked = new Set(facts.flatMap((each) => [...each.asked]));
      const left = new Map(
        unasked
          .filter(({ shownBy = key }) => shownBy === key || !rendered.has(shownBy))
          .filter(({ by }) => by === undefined || facts.every(({ functions }) => functions.has(by)))
          .filter((each) => ![key, ...keysAround(each.key)].some((around) => asked.has(around)))
          .map((each) => [each.key, each] as const),
      );
      return left.size > 0 ? [found(component, [...left.values()])] : [];
    });
  },
};

function found({ name, file, place }: Component, data: readonly ShownDatum[]): Finding {
  const [first] = data.filter(({ shown }) => shown.file === file);
  const names = listed(data.map((each) => `“${each.name}”`));
  return {
    place: first?.shown ?? { file, ...place },
    certainty: 'likely',
    message: message(name, names, data.length > 1 ? 'them' : 'it'),
    advice: advice(names),
    evidence: data.flatMap(({ given, shown }) => [
      { ...given, note: 'given here' },
      { ...shown, note: 'shown here' },
    ]),
  };
}
