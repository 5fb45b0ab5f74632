import type { Node } from 'oxc-parser';
import { parseScript } from '../../syntax/script.js';
import { literalText, memberName } from '../../syntax/tree.js';
import { basename, dirname, join } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import type { Project } from '../../project/project.js';
import { blocksAround, type Block, type Title } from './blocks.js';
import type { Place } from '../../finding.js';

/** One stored snapshot: its key as the runner wrote it, without the running number at its end, and its text. */
export interface StoredSnapshot {
  key: string;
  text: string;
  /** Where the text stands. */
  place: Place;
}

/** The stored snapshots of a spec file, from `__snapshots__/<name>.snap` beside it; none where there is no such file. */
export function storedSnapshots(project: Project, specFile: string): StoredSnapshot[] {
  const path = join(dirname(specFile), '__snapshots__', `${basename(specFile)}.snap`);
  const source = project.optionalSource(path);
  const script = source && parseScript(source, 'js');
  if (!script || 'reason' in script) return [];
  return (script.program.body as readonly Node[]).flatMap((statement) => {
    const node = statement.type === 'ExpressionStatement' ? statement.expression : undefined;
    if (node?.type !== 'AssignmentExpression') return [];
    const key = memberName(node.left);
    const text = literalText(node.right);
    if (key === undefined || text === undefined) return [];
    const { start, end } = node.right;
    return [{ key: key.replace(/ \d+$/, ''), text, place: { file: path, start, end } }];
  });
}

// What runners put between titles is left out.
const plainKey = (key: string): string => key.replace(/\s*>\s*|\s+/g, ' ').trim();

// Takes the keys that belong to a spec with these titles, outer first; `…`, `%s` and `$name` stand for anything.
function isKeyOf(titles: readonly Title[]): (key: string) => boolean {
  const joined = titles.map(({ text, exact }) =>
    exact
      ? escaped(plainKey(text))
      : plainKey(text)
          .split(/…|%[sdifjoOp#]|\$[\w.]+/)
          .map(escaped)
          .join('.*'),
  );
  const pattern = new RegExp(`^${joined.join(' ')}$`);
  return (key) => pattern.test(plainKey(key));
}

/** Those of the stored snapshots of a file that belong to a spec. */
export function snapshotsOf(spec: Block, stored: readonly StoredSnapshot[]): StoredSnapshot[] {
  const titles = blocksAround(spec)
    .slice(0, -1)
    .map(({ title }) => title)
    .toReversed();
  const isOwn = isKeyOf(titles);
  return stored.filter(({ key }) => isOwn(key));
}
