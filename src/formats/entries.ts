import { LEVELS, type Level } from '../finding.js';
import type { ReportedFinding } from '../audit/report.js';

/** Findings of one code, and one level, in one file. */
export interface FindingEntry {
  code: string;
  level: Level;
  file: string;
  findings: readonly ReportedFinding[];
}

/** Joins findings of one code in one file, gravest first, then by line. */
export function findingEntries(findings: readonly ReportedFinding[]): FindingEntry[] {
  const groups = new Map<string, ReportedFinding[]>();
  for (const finding of findings) {
    const key = `${finding.file}\0${finding.code}\0${finding.level}`;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  const entries = [...groups.values()].flatMap((group) => {
    const [first] = group;
    return first ? [{ code: first.code, level: first.level, file: first.file, findings: group }] : [];
  });
  return entries.sort(
    (a, b) => rank(a.level) - rank(b.level) || (a.findings[0]?.line ?? 0) - (b.findings[0]?.line ?? 0),
  );
}

/** 0 for a blocker, 2 for a hint. */
export const rank = (level: Level): number => LEVELS.indexOf(level);
