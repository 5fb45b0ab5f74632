export { audit, gaps, outline, RequestError, type AuditOptions } from './door.js';
export type { Outline, OutlinedBlock, OutlinedReach, OutlinedStep, SharedName } from './audit/outline.js';
export type {
  ArmCounts,
  CoveredFile,
  Gap,
  PackageFacts,
  Report,
  ReportedFinding,
  Sizes,
  Spread,
  Unread,
} from './audit/report.js';
export { CATALOGUE } from './checks/index.js';
export type { CheckText, Tally } from './checks/questions/check.js';
export { ConfigError, settingsFromJson } from './config/load.js';
export type { Config } from './config/schema.js';
export { settingsFrom, type HelperNames, type Limits, type Settings } from './config/settings.js';
export type { Share } from './coverage/coverage.js';
export type { Certainty, Edit, Evidence, Family, Finding, Level, Mend, Place } from './finding.js';
export { PLAIN, type Colours } from './formats/colours.js';
export { jsonReport } from './formats/json.js';
export { textReport, type TextOptions } from './formats/text.js';
export { DiskFiles } from './host/disk-files.js';
export type { Files, PathKind, Resolve, ResolverOptions } from './host/files.js';
export { overlaid } from './host/files.js';
export type { Dialect, Meaning, QueryNames, Writing } from './libraries/meaning.js';
export type { Rung } from './specs/model/rungs.js';
export type { Problem } from './syntax/source.js';
export { planMends, type CodedMend, type Plan } from './writing/plan.js';
export type { PendingFile, PendingSpec } from './writing/pending-specs.js';
