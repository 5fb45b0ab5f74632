import * as v from 'valibot';
import { CATALOGUE, type Report } from '#src/index.js';
import { FAMILIES, LEVELS } from '#src/finding.js';
import { RUNGS } from '#src/specs/model/rungs.js';

const count = v.pipe(v.number(), v.integer(), v.minValue(0));
const from1 = v.pipe(v.number(), v.integer(), v.minValue(1));
const at = { file: v.string(), line: from1, column: from1 };
const record = <const Name extends string>(names: readonly Name[]) =>
  v.strictObject(Object.fromEntries(names.map((name) => [name, count])) as Record<Name, typeof count>);
const share = v.pipe(v.strictTuple([count, count]), v.readonly());
const spread = v.strictObject({ median: count, p90: count });

const finding = v.strictObject({
  code: v.picklist(CATALOGUE.map(({ code }) => code)),
  family: v.picklist(FAMILIES),
  level: v.picklist(LEVELS),
  certainty: v.picklist(['sure', 'likely']),
  ...at,
  endLine: from1,
  endColumn: from1,
  group: v.array(v.string()),
  spec: v.optional(v.string()),
  message: v.string(),
  advice: v.string(),
  evidence: v.array(v.strictObject({ ...at, note: v.string() })),
  mend: v.optional(
    v.strictObject({
      summary: v.string(),
      safe: v.boolean(),
      edits: v.array(v.strictObject({ file: v.string(), start: count, end: count, text: v.string() })),
    }),
  ),
  suggestion: v.optional(v.string()),
  hides: v.optional(v.array(v.string())),
  fingerprint: v.string(),
});

const gap = v.strictObject({
  kind: v.picklist(['arm', 'component', 'event', 'output']),
  component: v.string(),
  ...at,
  branch: v.optional(v.string()),
  condition: v.optional(v.string()),
  arm: v.optional(v.string()),
  event: v.optional(v.string()),
  basis: v.picklist(['measured', 'computed']),
  computed: v.optional(v.literal('taken')),
  inputs: v.array(v.record(v.string(), v.unknown())),
  solved: v.boolean(),
});

const branches = v.strictObject({
  arms: count,
  unreachable: count,
  records: count,
  unmapped: count,
  disagree: count,
  components: v.array(
    v.strictObject({ component: v.string(), file: v.string(), arms: count, taken: count, gaps: count }),
  ),
});

const environment = v.strictObject({
  package: v.string(),
  runner: v.string(),
  document: v.string(),
  facts: v.record(v.string(), v.unknown()),
  reach: record(RUNGS),
  sizes: v.strictObject({
    specs: count,
    assertions: spread,
    rounds: spread,
    cannotFail: v.optional(count),
    vagueTitles: v.optional(count),
  }),
  sight: v.strictObject({
    queries: count,
    elements: count,
    renders: count,
    unseen: v.array(
      v.strictObject({
        what: v.picklist(['import', 'render', 'call', 'element']),
        name: v.string(),
        reason: v.string(),
        opens: v.optional(v.string()),
        count,
        files: count,
        file: v.string(),
        line: from1,
      }),
    ),
  }),
});

const entry = v.strictObject({
  code: v.string(),
  family: v.picklist(FAMILIES),
  level: v.picklist(LEVELS),
  certainty: v.picklist(['sure', 'likely']),
  scope: v.picklist(['file', 'package']),
  at: v.string(),
  files: count,
  specs: count,
  findings: v.array(count),
  best: v.array(count),
});

/** The shape of the JSON report, version 1. The published JSON Schema is made from it. */
export const ReportSchema = v.strictObject({
  format: v.literal('wexlet-report'),
  version: v.literal(1),
  tool: v.strictObject({ name: v.literal('wexlet'), version: v.string() }),
  root: v.literal('.'),
  verdict: v.picklist(['ready', 'hold', 'unsure']),
  undecided: v.array(
    v.strictObject({
      package: v.string(),
      fact: v.string(),
      reason: v.string(),
      file: v.optional(v.string()),
      line: v.optional(count),
      opens: v.string(),
    }),
  ),
  counts: v.strictObject({
    packages: count,
    specFiles: count,
    specs: count,
    components: count,
    findings: record(LEVELS),
  }),
  findings: v.array(finding),
  entries: v.array(entry),
  reach: record(RUNGS),
  gaps: v.array(gap),
  branches: v.optional(branches),
  coverage: v.optional(
    v.strictObject({
      source: v.array(v.string()),
      files: v.array(
        v.strictObject({
          file: v.string(),
          statements: share,
          branches: share,
          functions: share,
          lines: share,
        }),
      ),
      unmatched: count,
    }),
  ),
  environment: v.array(environment),
  unread: v.array(v.strictObject({ file: v.string(), reason: v.string(), line: v.optional(from1) })),
});

// A report is what the schema says, and the other way round: the compiler holds them together.
type Shape = v.InferOutput<typeof ReportSchema>;
export const isShape = (report: Report): Shape => report;
export const isReport = (shape: Shape): Report => shape as Report;
