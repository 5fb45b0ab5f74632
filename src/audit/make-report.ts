import type { Gathered } from './gathered.js';
import { hash } from 'node:crypto';
import { type ProjectContext } from '../checks/questions/context.js';
import { LEVELS, type Level, type Place } from '../finding.js';
import { CATALOGUE, textOfCode } from '../checks/index.js';
import { shares } from '../coverage/coverage.js';
import type { Source } from '../syntax/source.js';
import { relativeTo, resolve } from '../util/paths.js';
import { inShort, printable } from '../util/printable.js';
import { aboutAllowances } from '../checks/allowances.js';
import { allowancesIn, isAllowed, type Allowance } from './allowances.js';
import { entriesOf } from './entries.js';
import { packageFacts } from './package-facts.js';
import { packageSight } from './package-sight.js';
import { undecidedIn } from './undecided.js';
import { branchCounts, reportedGaps } from './report-gaps.js';
import type { Report, ReportedFinding, UndecidedFact, Unread } from './report.js';
import { summed } from '../specs/model/rungs.js';
import { packageSizes } from './sizes.js';
import type { CheckedSpecFile, Coded } from './spec-file.js';

/** Turns what was gathered into the report: allowances taken off, sorted, with relative paths. */
export function makeReport(gathered: Gathered): Report {
  const { session, checked, context } = gathered;
  const commentsIn = new Map(checked.map(({ facts, comments }) => [facts.path, comments]));
  const findings = sorted(
    allowed(gathered)
      .map((each) => reported(each, gathered, commentsIn.get(each.found.place.file) ?? []))
      .filter((each) => each !== undefined),
  );
  numberFingerprints(findings);
  const counts = { blocker: 0, risk: 0, hint: 0 };
  for (const { level } of findings) counts[level]++;
  const atOrAbove = LEVELS.slice(0, LEVELS.indexOf(session.settings.holdAt) + 1);
  const undecided = undecidedFacts(gathered);
  return {
    format: 'wexlet-report',
    version: 1,
    tool: { name: 'wexlet', version: gathered.version },
    root: '.',
    // Where nothing was audited, nothing is ready.
    verdict:
      checked.length === 0 || atOrAbove.some((level) => counts[level] > 0)
        ? 'hold'
        : undecided.length > 0
          ? 'unsure'
          : 'ready',
    undecided,
    counts: {
      packages: new Set(checked.map(({ facts }) => facts.package)).size,
      specFiles: checked.length,
      specs: checked.reduce((sum, { facts }) => sum + facts.specs, 0),
      components: gathered.components.length,
      findings: counts,
    },
    findings,
    entries: entriesOf(findings, (file) =>
      relativeTo(session.root, context.environmentOf(resolve(session.root, file)).folder),
    ),
    reach: summed(checked.map(({ reach }) => reach)),
    gaps: reportedGaps(gathered),
    branches: branchCounts(gathered),
    coverage: coverage(gathered),
    environment: context.environments.map((environment) => {
      const own = checked.filter(({ facts }) => facts.package === environment.folder);
      const reach = summed(own.map((file) => file.reach));
      return {
        ...packageFacts(environment, session.root, context.setting),
        reach,
        sizes: packageSizes(own, session),
        sight: packageSight(own, context),
      };
    }),
    unread: unread(gathered),
  };
}

// What no check of the set-up could ask about: where those do not take part, nobody asked.
function undecidedFacts({ context, checked, session }: Gathered): UndecidedFact[] {
  if (!session.isOn('E02')) return [];
  return context.environments.flatMap((environment) => {
    const own = checked.filter(({ facts }) => facts.package === environment.folder);
    return undecidedIn(
      environment,
      own.map(({ facts }) => facts),
      context,
      session.isOn,
    ).map(({ folder, fact, reason, at, opens }) => {
      const source = at && context.sourceOf(at.file);
      return {
        package: relativeTo(session.root, folder),
        fact,
        reason: inShort(printable(reason), 160),
        ...(at && source
          ? { file: relativeTo(session.root, at.file), line: source.lines.at(at.start).line }
          : {}),
        opens,
      };
    });
  });
}

// Findings that a comment with a reason allows are taken out; what is wrong with such comments is added.
function allowed({ found, checked, context, session }: Gathered): Coded[] {
  const byFile = new Map<string, Allowance[]>();
  const load = (file: string, comments: readonly { text: string; start: number; end: number }[]): void => {
    const source = comments.some(({ text }) => text.includes('wexlet:')) ? context.sourceOf(file) : undefined;
    byFile.set(file, source ? allowancesIn(comments, source) : []);
  };
  for (const { facts, comments } of checked) load(facts.path, comments);
  const files = new Set(found.map((each) => each.found.place.file));
  for (const file of files) if (!byFile.has(file)) load(file, commentsOf(file, context));
  const kept = found.filter(({ code, found: { place } }) => {
    const allowances = byFile.get(place.file) ?? [];
    if (allowances.length === 0) return true;
    return !isAllowed(allowances, code, context.sourceOf(place.file)?.lines.at(place.start).line ?? 0);
  });
  const about = [...byFile].flatMap(([file, allowances]) =>
    aboutAllowances(
      allowances.filter(({ codes }) => codes.some((code) => session.isOn(code) || !textOfCode(code))),
      file,
      CATALOGUE.map(({ code }) => code),
    ),
  );
  return [...kept, ...about.filter(({ code }) => session.isOn(code))];
}

const REASONS =
  /\b(?:because|since|workaround|on purpose|intentional(?:ly)?|deliberate(?:ly)?|due to|so that|otherwise|to keep|needed|known issue|not possible|impossible|can(?:'|no)t)\b/i;

// Somebody who was here before gave a reason on the line, or just above it: it weighs one level less.
function isExplained(
  line: number,
  comments: readonly { text: string; start: number; end: number }[],
  source: Source,
): boolean {
  return comments.some(({ text, end, start }) => {
    const last = source.lines.at(end).line;
    return (
      (last === line || last === line - 1 || source.lines.at(start).line === line) &&
      REASONS.test(text) &&
      !text.includes('wexlet:')
    );
  });
}

function commentsOf(file: string, context: ProjectContext): { text: string; start: number; end: number }[] {
  const source = context.sourceOf(file);
  if (!source?.text.includes('wexlet:')) return [];
  if (file.endsWith('.vue') || file.endsWith('.html')) {
    return [...source.text.matchAll(/<!--(.*?)-->|\/\/(.*)/gs)].map((match) => ({
      text: match[0],
      start: match.index,
      end: match.index + match[0].length,
    }));
  }
  return (
    context.project
      .tree(file)
      ?.script.comments.map(({ value, start, end }) => ({ text: value, start, end })) ?? []
  );
}

function reported(
  { code, found, hides }: Coded,
  { session, context }: Gathered,
  comments: CheckedSpecFile['comments'],
): ReportedFinding | undefined {
  const { root, settings } = session;
  const text = textOfCode(code);
  const source = context.sourceOf(found.place.file);
  if (!text || !source) return undefined;
  const configured = settings.checks.get(code);
  const at = source.lines.at(found.place.start);
  const explained = isExplained(at.line, comments, source);
  const level =
    configured && configured !== 'off' ? configured : weighed(found.level ?? text.level, explained);
  const end = source.lines.at(found.place.end);
  const path = (file: string): string => relativeTo(root, file);
  const { group = [], spec } = found.within ?? {};
  const file = path(found.place.file);
  return {
    code,
    family: text.family,
    level,
    certainty: found.certainty,
    file,
    line: at.line,
    column: at.column,
    endLine: end.line,
    endColumn: end.column,
    group,
    spec,
    message: found.message,
    advice: found.advice,
    evidence: (found.evidence ?? []).flatMap((each) => placed(each, context, root)),
    mend: found.mend && {
      ...found.mend,
      edits: found.mend.edits.map((edit) => ({
        file: path(edit.file),
        start: edit.start,
        end: edit.end,
        text: edit.text,
      })),
    },
    suggestion: found.suggestion,
    hides: hides && [...hides],
    fingerprint: fingerprint([code, file, ...group, spec ?? '', lineText(source, at.line)]),
  };
}

const weighed = (level: Level, explained: boolean): Level =>
  explained ? (LEVELS[LEVELS.indexOf(level) + 1] ?? level) : level;

function placed(
  evidence: Place & { note: string },
  context: ProjectContext,
  root: string,
): ReportedFinding['evidence'] {
  const source = context.sourceOf(evidence.file);
  return source
    ? [{ file: relativeTo(root, evidence.file), ...source.lines.at(evidence.start), note: evidence.note }]
    : [];
}

const lineText = (source: Source, line: number): string =>
  source.text.slice(source.lines.startOf(line), source.lines.startOf(line + 1)).trim();

const fingerprint = (parts: readonly string[]): string => hash('sha256', parts.join('\0')).slice(0, 16);

// Equal lines in one spec differ by their order only.
function numberFingerprints(findings: ReportedFinding[]): void {
  const seen = new Map<string, number>();
  for (const finding of findings) {
    const count = seen.get(finding.fingerprint) ?? 0;
    seen.set(finding.fingerprint, count + 1);
    if (count > 0) finding.fingerprint = fingerprint([finding.fingerprint, String(count)]);
  }
}

function sorted(findings: readonly ReportedFinding[]): ReportedFinding[] {
  const order = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
  return [...findings].sort(
    (a, b) => order(a.file, b.file) || a.line - b.line || a.column - b.column || order(a.code, b.code),
  );
}

function coverage({ context, session }: Gathered): Report['coverage'] {
  if (!context.coverage) return undefined;
  const files = [...context.coverage.files]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([file, each]) => ({ file: relativeTo(session.root, file), ...shares(each) }));
  const source = context.coverage.source.map((path) => relativeTo(session.root, path));
  return { source, files, unmatched: context.coverage.unmatched.length };
}

// Of one place, one reason is enough; what stands in names and reasons must not reach a terminal.
function unread({ unread: problems, session }: Gathered): Unread[] {
  const all = problems.map(({ file, reason, line }) => ({
    file: relativeTo(session.root, file),
    reason: inShort(printable(reason), 160),
    line,
  }));
  const unique = new Map(all.map((each) => [`${each.file}:${each.line}`, each]));
  return [...unique.values()].sort((a, b) =>
    a.file < b.file ? -1 : a.file > b.file ? 1 : (a.line ?? 0) - (b.line ?? 0),
  );
}
