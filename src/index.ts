export { audit } from './audit/audit.js';
export type { AuditRequest } from './audit/prepare.js';
export { outline, type Outline } from './audit/outline.js';
export type {
  Report,
  ReportedFinding,
  Gap,
  Unread,
  CoveredFile,
  PackageFacts,
  Rung,
} from './audit/report.js';
export { CATALOGUE } from './checks/index.js';
export type { CheckText, Family, Level, Certainty } from './checks/check.js';
export type { Config } from './config/schema.js';
export { settingsFrom, type Settings } from './config/settings.js';
export { ConfigError, settingsFromJson } from './config/load.js';
export { DiskFiles } from './discover/disk-files.js';
export type { Files } from './discover/files.js';
export { planMends, type CodedMend, type Plan } from './mends/plan.js';
export { jsonReport } from './report/json.js';
export { textReport, type TextOptions } from './report/text.js';
export { PLAIN, type Colours } from './report/colours.js';
