import type { Coverage } from '../../coverage/coverage.js';
import { basename, join } from '../../util/paths.js';
import { plural } from '../../util/plural.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';

const messageForeign = (count: number): string =>
  `None of the ${plural(count, 'file')} that it names is a source of this project.`;
const messageMisplaced = (file: string, line: number, isEmpty: boolean): string =>
  isEmpty
    ? `It counts code on line ${line} of ${file}, which is empty: it was measured on another text.`
    : `It counts line ${line} of ${file}, which is not that long: it was measured on another text.`;
const advice =
  'Run the specs with coverage again. If that changes nothing, a transform reports the lines of its own output: let it write source maps.';

/** A coverage file that does not belong to these sources. */
export const B07: ProjectCheck = {
  code: 'B07',
  family: 'branches',
  scope: 'project',
  title: 'Coverage that cannot be trusted',
  level: 'risk',
  why: 'Coverage of other sources, or of an older text, says which lines of something else ran.',
  certain: 'Sure where the records themselves say so.',
  trouble: 'SF:src/kiln-lid.tsx\nDA:340,1 // kiln-lid.tsx has 21 lines',
  mended: '# run the specs with coverage again',
  run: ({ coverage, ...context }) =>
    coverage
      ? coverage.source.flatMap((file) => [...foreign(file, coverage, context), ...misplaced(file, coverage)])
      : [],
};

const at = (file: string): Finding['place'] => ({ file, start: 0, end: 0 });

function foreign(
  file: string,
  { files, unmatched, unusable }: Coverage,
  context: Pick<ProjectContext, 'files' | 'root'>,
): Finding[] {
  const named = unmatched.filter((each) => each.in === file);
  if (files.size > 0 || unusable.length > 0 || named.length === 0) return [];
  // Files of the project that take no part in this audit are no strangers.
  if (named.some(({ path }) => isThere(path, context))) return [];
  return [{ place: at(file), certainty: 'sure', message: messageForeign(named.length), advice }];
}

const isThere = (path: string, { files, root }: Pick<ProjectContext, 'files' | 'root'>): boolean =>
  files.kind(path) === 'file' || files.kind(join(root, path)) === 'file';

// One text that does not fit is enough to doubt the file.
function misplaced(file: string, { unusable }: Coverage): Finding[] {
  const own = unusable.filter((each) => each.in === file);
  const [first] = own;
  if (!first) return [];
  return [
    {
      place: at(file),
      certainty: 'sure',
      message: messageMisplaced(basename(first.file), first.line, first.isEmpty),
      advice,
      evidence: own.map((each) => ({ file: each.file, start: 0, end: 0, note: 'its records are left out' })),
    },
  ];
}
