import { lazily } from '../util/lazily.js';
import type { FileCoverage } from './coverage.js';

// Loaded on first use, as the parser of XML is.
const load = lazily<typeof import('@friedemannsommer/lcov-parser/sync')>(
  '@friedemannsommer/lcov-parser/sync',
);

const HIGHEST_LINE = 1_000_000;

/** Reads an LCOV trace file (geninfo's format). Records without a path, and counts that are no numbers, are left out. */
export function readLcov(text: string): FileCoverage[] {
  return load()
    .default({ from: text })
    .filter((section) => section.path !== '')
    .map((section) => ({
      path: section.path,
      lines: new Map(
        section.lines.details
          .filter((detail) => isLine(detail.line))
          .map((detail) => [detail.line, detail.hit]),
      ),
      branches: branches(section.branches.details),
      functions: section.functions.details.map(({ name, line, hit }) => ({ name, line, hits: hit })),
    }));
}

const isLine = (line: number): boolean => Number.isInteger(line) && line > 0 && line < HIGHEST_LINE;

function branches(
  details: readonly { line: number; block: number; branch: string; hit: number }[],
): FileCoverage['branches'] {
  const found = new Map<string, { line: number; block: number; hits: number[] }>();
  for (const { line, block, branch, hit } of details) {
    if (!isLine(line) || branch === '') continue;
    const key = `${line}:${block}`;
    const known = found.get(key) ?? { line, block, hits: [] };
    known.hits.push(hit);
    found.set(key, known);
  }
  return [...found.values()];
}
