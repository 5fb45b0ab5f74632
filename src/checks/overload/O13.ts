import { titlesOf, blocksAround, type Block } from '../../specs/model/blocks.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { stemOf, stemsOf, wordsOf } from '../../util/words.js';

const messageLarge = (count: number, limit: number): string =>
  `This group has ${count} specs of its own, more than ${limit}: nobody finds the one that is missing.`;
const messageDeep = (level: number, limit: number): string =>
  `This group stands on level ${level}, more than ${limit}: its specs can't be read without all the hooks around them.`;
const adviceGroups = (groups: readonly [string, number][]): string =>
  groups.length > 0
    ? `Make groups of what belongs together: ${groups.map(([word, count]) => `“${word}” (${plural(count, 'spec')})`).join(', ')}.`
    : 'Make groups of what belongs together, by the element or the event that the specs are about.';
const adviceDeep = 'Join groups that have one member each, and say in the titles what they said.';

/** Groups with very many specs, and groups that stand very deep. */
export const O13: FileCheck = {
  code: 'O13',
  family: 'overload',
  scope: 'file',
  title: 'Group too large',
  level: 'hint',
  why: 'In a long list of specs nobody sees what is tested twice and what is not tested at all.',
  certain: 'Sure where the specs stand in the group.',
  trouble: "describe('KilnCard', () => {\n  // 60 specs\n});",
  mended:
    "describe('KilnCard', () => {\n  describe('lid', () => { … });\n  describe('firing', () => { … });\n});",
  run: (context) => {
    const groups = context.file.blocks.filter(({ kind }) => kind === 'group');
    return [...groups.flatMap((group) => tooLarge(group, context)), ...tooDeep(groups, context)];
  },
};

function tooLarge(group: Block, context: FileContext): Finding[] {
  const limit = context.limits.specs;
  // A table is one spec, however many rows it has.
  const places = new Set(
    group.children.filter(({ kind }) => kind === 'spec').map(({ callee }) => callee.start),
  );
  if (places.size <= limit) return [];
  return [
    {
      place: inFile(context, group.callee),
      within: titlesOf(group),
      certainty: 'sure',
      message: messageLarge(places.size, limit),
      advice: adviceGroups(groupsFor(group)),
    },
  ];
}

// Only the first level that is too deep: what is inside of it follows from it. One group of a file stands for all.
function tooDeep(groups: readonly Block[], context: FileContext): Finding[] {
  const level = context.limits.levels + 1;
  const [first, ...others] = groups.filter(
    (group) => blocksAround(group).filter(({ kind }) => kind === 'group').length === level,
  );
  if (!first) return [];
  return [
    {
      place: inFile(context, first.callee),
      within: titlesOf(first),
      certainty: 'sure',
      message: messageDeep(level, context.limits.levels),
      advice: adviceDeep,
      evidence: others.map(({ callee }) => ({ ...inFile(context, callee), note: 'as deep' })),
    },
  ];
}

const FEWEST = 5;
const MOST_GROUPS = 4;

// Words that several titles have, and not nearly all; the group's own left out.
function groupsFor(group: Block): [string, number][] {
  const specs = group.children.filter(({ kind }) => kind === 'spec');
  const own = new Set(blocksAround(group).flatMap(({ title }) => stemsOf(title.text)));
  const counts = new Map<string, { word: string; count: number }>();
  for (const { title } of specs) {
    for (const word of new Set(wordsOf(title.text))) {
      const stem = stemOf(word);
      if (word.length < 4 || own.has(stem) || COMMON.has(word)) continue;
      const known = counts.get(stem) ?? { word, count: 0 };
      counts.set(stem, { ...known, count: known.count + 1 });
    }
  }
  return [...counts.values()]
    .filter(({ count }) => count >= FEWEST && count <= specs.length / 2)
    .sort((a, b) => b.count - a.count || (a.word < b.word ? -1 : 1))
    .slice(0, MOST_GROUPS)
    .map(({ word, count }) => [word, count]);
}

const COMMON: ReadonlySet<string> = new Set(
  'should when with that this then than does have from into only renders render rendered shows show displays display sets calls correctly default without after before component test verify passed given used using adds applies applied custom value props prop true false'.split(
    ' ',
  ),
);
