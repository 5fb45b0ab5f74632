import type { Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import { snapshotsOf, storedSnapshots, type StoredSnapshot } from '../../specs/model/snapshots.js';
import { LASTS } from './idle-input.js';
import type { FileContext } from './context.js';
import { runningSpecs } from './order.js';

/** A spec whose stored snapshot is that of the one before it, which does something else. */
interface SameSnapshot {
  spec: Block;
  before: Block;
  stored: StoredSnapshot;
}

// That something changes nothing may be what a spec is about.
const ALIKE = new RegExp(`${LASTS.source}|\\b(?:same|alternative|alike|equivalent|default)\\b`, 'i');

/** Specs in a row whose stored snapshots are the same, where all that each asserts is that snapshot. */
export function sameSnapshots({ file, project, source }: FileContext): SameSnapshot[] {
  const asking = runningSpecs(file).filter(asksSnapshotAlone);
  const stored = asking.length > 1 ? storedSnapshots(project, file.path) : [];
  if (stored.length < 2) return [];
  const own = new Map(asking.map((spec) => [spec, storedFor(spec, stored)] as const));
  const codeOf = ({ body }: Block): string => (body ? source.text.slice(body.start, body.end) : '');
  return runningSpecs(file).flatMap((spec, i, all) => {
    const before = all[i - 1];
    const mine = own.get(spec);
    const theirs = before && own.get(before);
    if (!before || !mine || !theirs || before.parent !== spec.parent || mine.text !== theirs.text) return [];
    if ([spec, before].some(({ title }) => ALIKE.test(title.text)) || codeOf(spec) === codeOf(before))
      return [];
    return [{ spec, before, stored: mine }];
  });
}

function asksSnapshotAlone(spec: Block): boolean {
  const [only, ...more] = spec.steps.filter(isAssert);
  return only?.assertion.asks === 'snapshot' && more.length === 0 && !spec.repeated && spec.title.exact;
}

function storedFor(spec: Block, stored: readonly StoredSnapshot[]): StoredSnapshot | undefined {
  const [only, ...more] = snapshotsOf(spec, stored);
  return more.length === 0 ? only : undefined;
}
