import { titlesOf } from '../../specs/model/blocks.js';
import type { Finding, Span } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { inShort } from '../../util/printable.js';
import {
  fileFact,
  inSpecFile,
  type FileContext,
  type ProjectContext,
  type SpecFileFacts,
} from './context.js';
import { runningSpecs } from './order.js';
import { outlineKey, projectNames } from './outlined.js';

const message = (count: number, title: string): string =>
  `${count} files have this spec, “${inShort(title, 60)}”, each with names and values of its own.`;
const advice =
  'Write it once, in a helper module next to the specs: a function that takes what differs and makes the spec.';

const FEWEST_STATEMENTS = 4;
const FEWEST_FILES = 4;
// Of long ones, fewer files are enough.
const LONG = 6;
const FEWEST_OF_LONG = 3;

/** A spec of some length, by what it does with its values and the names of the project left out. */
interface Outlined extends Span {
  key: string;
  title: string;
  within: Finding['within'];
  statements: number;
}

function outlinesOf(context: FileContext): Outlined[] {
  const names = projectNames(context);
  return runningSpecs(context.file)
    .filter(({ statements, repeated }) => statements.length >= FEWEST_STATEMENTS && !repeated)
    .map((spec) => ({
      key: outlineKey(spec.statements, names),
      title: spec.title.text,
      within: titlesOf(spec),
      statements: spec.statements.length,
      ...spec.place,
    }));
}

/** The longer specs of a file, for those that other files have as well. */
export const OUTLINES = fileFact('outlines', outlinesOf);

interface Written {
  facts: SpecFileFacts;
  spec: Outlined;
}

/** Specs that several files of a package have, each with names and values of its own. */
export function specsAgain({ specFiles }: ProjectContext): Finding[] {
  return [...grouped(specFiles, (facts) => facts.package).values()].flatMap((files) => {
    const all = files.flatMap((facts) => facts.get(OUTLINES).map((spec): Written => ({ facts, spec })));
    const again = [...grouped(all, ({ spec }) => spec.key).values()].flatMap(found);
    // What the same files share is said once.
    const together = grouped(again, ({ place, evidence = [] }) =>
      [place, ...evidence].map(({ file }) => file).join('\n'),
    );
    return [...together.values()].flatMap(([most]) => most ?? []);
  });
}

function found(written: readonly Written[]): Finding[] {
  const byFile = grouped(written, ({ facts }) => facts.path);
  const [first, ...others] = [...byFile.values()].flatMap(([one]) => one ?? []);
  const fewest = (first?.spec.statements ?? 0) >= LONG ? FEWEST_OF_LONG : FEWEST_FILES;
  if (!first || others.length + 1 < fewest) return [];
  return [
    {
      place: inSpecFile(first.facts, first.spec),
      within: first.spec.within,
      certainty: 'sure',
      message: message(others.length + 1, first.spec.title),
      advice,
      evidence: others.map(({ facts, spec }) => ({
        ...inSpecFile(facts, spec),
        note: `“${inShort(spec.title, 60)}”`,
      })),
    },
  ];
}
