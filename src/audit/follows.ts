import type { Finding } from '../finding.js';
import type { Coded } from './spec-file.js';

/** What one finding says is a part of what another says of the same thing: it is not said again. */
const FOLLOWS: Readonly<Record<string, { from: readonly string[]; same: (found: Finding) => string }>> = {
  // A spec that proves nothing need not have a title that says what it proves, until it does.
  O03: { from: ['O04'], same: specOf },
  // A component without specs has arms that no spec takes, and an arm that no run took is not computed as well.
  B03: { from: ['B02'], same: ({ place }) => place.file },
};

// One assertion beside others that can fail, or a spec that says little, says nothing of the title.
const isOfWhole = ({ level }: Finding): boolean => level !== 'hint';

function specOf({ place, within }: Finding): string {
  return within?.spec === undefined ? '' : [place.file, ...within.group, within.spec].join('\0');
}

/** Leaves out the findings that follow from others. */
export function withoutFollowing(found: readonly Coded[]): Coded[] {
  const told = new Map(
    Object.entries(FOLLOWS).map(([code, { from, same }]) => [
      code,
      new Set(
        found.flatMap((each) =>
          from.includes(each.code) && !each.found.mend && isOfWhole(each.found) ? same(each.found) : [],
        ),
      ),
    ]),
  );
  return found.filter(({ code, found: each }) => {
    const key = FOLLOWS[code]?.same(each);
    return !key || !told.get(code)?.has(key);
  });
}
