import { isInside } from '../../util/spans.js';
import { hash } from 'node:crypto';
import type { Finding, Span } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { inShort } from '../../util/printable.js';
import { plural } from '../../util/plural.js';
import { sayingLines } from '../../util/words.js';
import {
  fileFact,
  inSpecFile,
  type FileContext,
  type ProjectContext,
  type SpecFileFacts,
} from './context.js';

/** A fixture, a helper or a stand-in of a module that a spec file writes out beside its specs. */
interface Part extends Span {
  /** What it declares, or how it begins. */
  name: string;
  isCall: boolean;
  /** Its lines, each shortened to a key; such as say next to nothing are left out. */
  lines: readonly string[];
}

// `return {`, `});` and the like stand anywhere.
const FEWEST_LETTERS = 6;
const FEWEST_LINES = 5;
// How many lines could go, in all.
const FEWEST_IN_ALL = 12;
// Of ten lines, so many are the same in two parts that are alike.
const ALIKE = 0.7;

function partsOf({ file, source: { text } }: FileContext): Part[] {
  const places = file.blocks.map(({ place }) => place);
  const holders = [file.root, ...file.blocks.filter(({ kind }) => kind === 'group')];
  return holders
    .flatMap(({ statements }) => statements)
    .filter((statement) => !places.some((place) => isInside(place, statement)))
    .flatMap(({ start, end, declares }) => {
      const written = text.slice(start, end);
      const saying = sayingLines(written, FEWEST_LETTERS);
      const lines = [...new Set(saying.map((line) => hash('sha256', line).slice(0, 12)))];
      const name = declares.join(', ') || inShort(written.split('\n')[0] ?? '', 40);
      return lines.length >= FEWEST_LINES ? [{ name, isCall: declares.length === 0, lines, start, end }] : [];
    });
}

/** What a spec file writes out beside its specs. */
export const PARTS = fileFact('parts', partsOf);

interface Written {
  facts: SpecFileFacts;
  part: Part;
}

/** Parts of several files that are alike, and how many lines all of them share. */
interface Copies {
  all: readonly [Written, ...Written[]];
  shared: number;
}

const message = (lines: number, names: string, files: number, isWhole: boolean): string =>
  isWhole
    ? `The same ${lines} lines stand in ${plural(files, 'spec file')}: ${names}.`
    : `${lines} lines of ${names} are the same in ${plural(files, 'spec file')}.`;
const advice = 'Write them once, in a module next to the specs that all of these files import.';
const adviceCall = 'Write them once, in a set-up file or in what stands in for the module by its place.';

/** Fixtures, helpers and stand-ins that several spec files of a package write out alike. */
export function writtenAgain({ specFiles }: ProjectContext): Finding[] {
  const packages = grouped(specFiles, (facts) => facts.package);
  return [...packages.values()].flatMap((files) => {
    const copies = copiesAmong(files.flatMap((facts) => facts.get(PARTS).map((part) => ({ facts, part }))));
    const together = grouped(copies, ({ all }) => all.map(({ facts }) => facts.path).join('\n'));
    return [...together.values()].flatMap(found);
  });
}

// Each part goes with those of other files that share most of their lines with it: one a file, the most alike.
function copiesAmong(written: readonly Written[]): Copies[] {
  const byLine = new Map<string, Written[]>();
  for (const each of written)
    for (const line of each.part.lines) byLine.set(line, [...(byLine.get(line) ?? []), each]);
  const told = new Set<Written>();
  return written.flatMap((first): Copies[] => {
    if (told.has(first)) return [];
    const shares = new Map<Written, number>();
    for (const line of first.part.lines)
      for (const each of byLine.get(line) ?? []) shares.set(each, (shares.get(each) ?? 0) + 1);
    const alike = [...shares]
      .filter(([each, count]) => each.facts !== first.facts && !told.has(each) && isAlike(first, each, count))
      .sort(([, a], [, b]) => b - a)
      .map(([each]) => each);
    const others = [...grouped(alike, ({ facts }) => facts).values()].flatMap(([most]) => most ?? []);
    const lines = first.part.lines.filter((line) => others.every(({ part }) => part.lines.includes(line)));
    if (others.length === 0 || lines.length < FEWEST_LINES) return [];
    for (const each of others) told.add(each);
    return [{ all: [first, ...others.toSorted(byFile)], shared: lines.length }];
  });
}

const isAlike = ({ part: a }: Written, { part: b }: Written, count: number): boolean =>
  count >= FEWEST_LINES && count / Math.max(a.lines.length, b.lines.length) >= ALIKE;

const byFile = (a: Written, b: Written): number => (a.facts.path < b.facts.path ? -1 : 1);

// What stands in the same files is said once.
function found(copies: readonly Copies[]): Finding[] {
  const [most] = copies.toSorted((a, b) => b.shared - a.shared);
  const lines = copies.reduce((sum, { shared }) => sum + shared, 0);
  if (!most || lines * (most.all.length - 1) < FEWEST_IN_ALL) return [];
  const [first, ...others] = most.all;
  const isWhole = copies.every(({ all, shared }) => all.every(({ part }) => part.lines.length === shared));
  const names = copies.map(({ all: [{ part }] }) => `“${part.name}”`).join(', ');
  return [
    {
      place: inSpecFile(first.facts, first.part),
      certainty: 'sure',
      message: message(lines, names, others.length + 1, isWhole),
      advice: first.part.isCall ? adviceCall : advice,
      evidence: others.map(({ facts, part }) => ({
        ...inSpecFile(facts, part),
        note: isWhole ? 'the same' : 'alike',
      })),
    },
  ];
}
