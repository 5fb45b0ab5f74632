import { titlesOf } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { Assertion } from '../../specs/model/steps.js';
import { plural } from '../../util/plural.js';
import type { FileCheck } from '../questions/check.js';
import { inFile } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = (component: string, specs: number): string =>
  `The template of ${component} is blanked, and ${plural(specs, 'spec')} ${specs === 1 ? 'asserts' : 'assert'} on its instance alone: what a user sees is tried by none of them.`;
const advice =
  'Leave its template in place and assert on what it shows; what is only reckoned can be a function with specs of its own.';

/** A component whose template the spec blanks, to assert on its instance alone. */
export const Q14: FileCheck = {
  code: 'Q14',
  family: 'queries',
  scope: 'file',
  title: 'Template is blanked',
  level: 'risk',
  why: 'Half of a component is its template: bindings to what no longer exists, events that lead nowhere and conditions turned round all stay green.',
  certain: 'Sure where the spec itself blanks the template.',
  trouble: "TestBed.overrideTemplate(KilnLid, '');\n…\nexpect(fixture.componentInstance.open).toBe(true);",
  mended: "expect(fixture.nativeElement.textContent).toContain('Open');",
  run(context) {
    const renders = context.file.renders.filter(({ template }) => template === 'blank');
    const [first] = renders;
    const component = first && context.rendering.component(first);
    if (!first || !component) return [];
    const specs = runningSpecs(context.file).filter((spec) => spec.steps.some(isAssert));
    const about = specs.filter((spec) =>
      context.rendering.rendersFor(spec).some((render) => renders.includes(render)),
    );
    const isInside = about.every((spec) =>
      spec.steps.filter(isAssert).every(({ assertion }) => !isOfPage(assertion)),
    );
    if (about.length === 0 || !isInside) return [];
    return [
      {
        place: inFile(context, first.place),
        within: titlesOf(first.block),
        certainty: 'sure',
        message: message(component.name, about.length),
        advice,
        evidence: [{ file: component.file, ...component.place, note: 'its own template is never shown' }],
      },
    ];
  },
};

function isOfPage({ subject }: Assertion): boolean {
  const thing = libraryObjectOf(subject);
  return thing?.type === 'element' || thing?.type === 'debug-element' || thing?.reach !== undefined;
}
