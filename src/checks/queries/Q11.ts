import { comparedRender } from '../questions/compared-render.js';
import type { Mend, Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, type ProjectContext } from '../questions/context.js';
import { unnamedControls, type Unnamed } from '../questions/unnamed.js';

const message = ({ markup, role, component }: Unnamed, uses: number): string =>
  `The ${role} ${markup} of ${component} has no name: no user of a screen reader knows what it is for, and ${uses === 1 ? 'the spec that uses it has' : 'specs that use it have'} to reach it another way.`;
const advice = (attribute: string, hint: string | undefined): string =>
  `Give it a name in the component: ${attribute}="${hint ?? '…'}", or text that a user can see.`;
const MOST_USES = 4;

/** Controls that it uses and that have no accessible name. */
const UNNAMED = fileFact('unnamed', unnamedControls);

/** Whether it compares the whole markup of a render. */
const COMPARES_MARKUP = fileFact('compares markup', ({ file }) =>
  file.blocks.some(({ steps }) =>
    steps.some((step) => step.kind === 'assert' && comparedRender(step.assertion) !== undefined),
  ),
);

/** A control that specs act on or assert about, and that has no accessible name. */
export const Q11: ProjectCheck = {
  code: 'Q11',
  family: 'queries',
  scope: 'project',
  facts: [UNNAMED, COMPARES_MARKUP],
  title: 'Control that nobody can name',
  level: 'risk',
  why: 'Without a name a control can’t be reached by role, nor by those who hear the page. The spec shows the fault; the component has it.',
  certain: 'Sure where the control and all that could name it are known.',
  trouble: '<button className="kiln-card__close"><svg /></button>',
  mended: '<button className="kiln-card__close" aria-label="Close"><svg /></button>',
  run(context) {
    const { specFiles, components } = context;
    // Stories, stand-ins and helpers of specs are nobody's page.
    const shipped = new Set(components.flatMap(({ file, templateFile }) => [file, templateFile]));
    const byPlace = new Map<string, Unnamed[]>();
    for (const each of specFiles.flatMap((specFile) => specFile.get(UNNAMED))) {
      const key = `${each.place.file}:${each.place.start}`;
      byPlace.set(key, [...(byPlace.get(key) ?? []), each]);
    }
    return [...byPlace.values()].flatMap((uses): Finding[] => {
      const [first] = uses;
      if (!first || !shipped.has(first.place.file)) return [];
      const attribute = first.role === 'img' && first.tag === 'img' ? 'alt' : 'aria-label';
      return [
        {
          place: first.place,
          certainty: uses.some(({ sure }) => sure) ? 'sure' : 'likely',
          message: message(first, uses.length),
          advice: advice(attribute, first.hint),
          evidence: uses.slice(0, MOST_USES).map(({ usedAt }) => ({ ...usedAt, note: 'used here' })),
          mend: isCompared(first.place.file, context) ? undefined : mend(first, attribute),
        },
      ];
    });
  },
};

// What is stored of its markup would no longer be the same.
function isCompared(component: string, { specFiles, imports }: ProjectContext): boolean {
  const loaders = imports().loadersOf((_, target) => target?.path === component);
  return specFiles.some((specFile) => specFile.get(COMPARES_MARKUP) && loaders.has(specFile.path));
}

// Only where the component has words of its own for it: a name is for people, and not to be made up.
function mend({ place, tag, hint }: Unnamed, attribute: string): Mend | undefined {
  if (!hint || /["&<>]/.test(hint)) return undefined;
  const start = place.start + 1 + tag.length;
  const edit = { file: place.file, start, end: start, text: ` ${attribute}="${hint}"` };
  return { summary: `Name it “${hint}”`, safe: false, edits: [edit] };
}
