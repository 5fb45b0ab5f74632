import { branchesOf, type Arm, type Branch } from '../../branches/arms.js';
import { measuredBranches, type MeasuredBranch } from '../../coverage/arms-hit.js';
import type { FileCoverage } from '../../coverage/coverage.js';
import type { Component } from '../../model/components/view.js';
import type { Found, ProjectCheck, ProjectContext } from '../check.js';
import type { LineIndex } from '../../util/line-index.js';
import { inShort } from '../../util/printable.js';

const message = (arm: string, condition: string): string =>
  `The arm “${arm}” of ${inShort(condition, 70)} is never taken.`;
const advice = (conditions: readonly string[]): string =>
  `It is taken when ${conditions.map((each) => inShort(each, 70)).join(', and ')}.`;

/** An arm of a component that, by the coverage file, no spec took. */
export interface ArmGap {
  component: Component;
  branch: Branch;
  arm: Arm;
  /** All that must hold, outer conditions first. */
  conditions: readonly string[];
}

/** An arm that the coverage file says no spec takes. */
export const B01: ProjectCheck = {
  code: 'B01',
  family: 'branches',
  scope: 'project',
  title: 'Arm never taken',
  level: 'risk',
  why: 'An arm that no spec takes can hold anything. The condition says which inputs take it.',
  trouble: "temp < 600 ? 'safe to open' : 'hot' // no spec renders it with temp under 600",
  mended: "it('is safe to open below 600 degrees', () => {\n  render(<KilnLid temp={599} />);\n  …\n});",
  run: (context) =>
    armGaps(context).map(({ branch, arm, conditions, component }) => ({
      place: placeOf(arm, branch),
      certainty: 'sure',
      message: message(arm.arm, branch.condition),
      advice: advice(conditions),
      evidence: [{ ...branch.place, note: `the branch, in ${component.name}` }],
    })),
};

const placeOf = (arm: Arm, branch: Branch): Found['place'] =>
  arm.arm === 'else' && arm.place.start === branch.place.start ? { ...branch.place } : { ...arm.place };

/** The arms that coverage says nobody took, in components that some spec renders; of arms in such an arm, only the outer one. */
export function armGaps(context: ProjectContext): ArmGap[] {
  const { coverage } = context;
  if (!coverage) return [];
  const files = [...new Set(context.components.map(({ file }) => file))];
  return files.flatMap((file) => {
    const measured = coverage.files.get(file);
    return measured && ranAtAll(measured) ? gapsOf(file, measured, context) : [];
  });
}

// A file that never ran has no component that a spec renders: that is B02.
const ranAtAll = ({ functions, lines }: FileCoverage): boolean =>
  functions.length ? functions.some(({ hits }) => hits > 0) : [...lines.values()].some((hits) => hits > 0);

function gapsOf(file: string, coverage: FileCoverage, context: ProjectContext): ArmGap[] {
  const tree = context.project.tree(file);
  if (!tree || isGenerated(tree.script.comments.map(({ value }) => value))) return [];
  const { source, program } = tree.script;
  const measured = measuredBranches(branchesOf(program, file, source.text), coverage, source.lines);
  const missed = measured
    .filter((each) => wasCalled(each.branch, coverage, source.lines))
    .flatMap((each) => missedArms(each));
  const components = context.components.filter((each) => each.file === file);
  return missed
    .filter(({ branch, arm }) => !missed.some((outer) => outer.arm !== arm && holds(outer, branch)))
    .flatMap(({ branch, arm }) => {
      const component =
        components.find(({ place }) => place.start <= branch.place.start && branch.place.end <= place.end) ??
        components[0];
      const conditions = [...branch.under, ...(arm.condition === 'always' ? [] : [arm.condition])];
      return component ? [{ component, branch, arm, conditions }] : [];
    });
}

// The default of a parameter says nothing where the function itself was never called.
function wasCalled({ kind, place }: Branch, { functions }: FileCoverage, lines: LineIndex): boolean {
  const line = lines.at(place.start).line;
  const here = functions.filter((each) => each.line === line);
  return kind !== 'default' || here.length === 0 || here.some(({ hits }) => hits > 0);
}

// A branch that nobody reached at all is no gap of its own: the arm that it stands in is.
function missedArms({ branch, hits }: MeasuredBranch): { branch: Branch; arm: Arm }[] {
  if (hits.every((count) => count === 0))
    return branch.kind === 'default' ? branch.arms.map((arm) => ({ branch, arm })) : [];
  return branch.arms.flatMap((arm, i) => (hits[i] === 0 ? [{ branch, arm }] : []));
}

// An `else` that is not written holds nothing.
const holds = ({ arm, branch }: { arm: Arm; branch: Branch }, inner: Branch): boolean =>
  arm.place.start !== branch.place.start &&
  arm.place.start <= inner.place.start &&
  inner.place.end <= arm.place.end;

const isGenerated = (comments: readonly string[]): boolean =>
  comments.slice(0, 3).some((text) => /@generated|auto-?generated/i.test(text));
