import { textOfCode } from '../checks/index.js';
import { LEVELS, type Finding, type Level, type Place } from '../finding.js';
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

/** Leaves out the findings that follow from others; what a check itself calls a cause keeps their codes. */
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
  const keyOf = ({ file, start }: Place): string => `${file}\0${start}`;
  const places = new Set(found.map((each) => keyOf(each.found.place)));
  const hidden = new Map<string, Coded[]>();
  const kept = found.filter((coded) => {
    const { code, found: each } = coded;
    const cause = each.follows && keyOf(each.follows);
    if (cause !== undefined && places.has(cause)) {
      hidden.set(cause, [...(hidden.get(cause) ?? []), coded]);
      return false;
    }
    const key = FOLLOWS[code]?.same(each);
    return !key || !told.get(code)?.has(key);
  });
  return kept.map((each) => {
    const own = hidden.get(keyOf(each.found.place));
    if (!own) return each;
    const hides = [...new Set(own.map(({ code }) => code))].sort();
    // A cause weighs what the worst of its consequences does.
    const level = LEVELS.find((level) => [each, ...own].some((coded) => levelOf(coded) === level));
    return { ...each, hides, found: { ...each.found, level } };
  });
}

const levelOf = ({ code, found }: Coded): Level | undefined => found.level ?? textOfCode(code)?.level;
