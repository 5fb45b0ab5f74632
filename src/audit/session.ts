import type { FileFact } from '../checks/questions/context.js';
import type { SetupEffects } from '../checks/questions/setup-effects.js';
import type { Settings } from '../config/settings.js';
import type { Files } from '../host/files.js';
import type { Environments } from '../environment/read.js';
import type { ShownProps } from '../rendering/shown-props.js';
import type { Project } from '../project/project.js';

/** What all stages of one audit share. */
export interface AuditSession {
  root: string;
  files: Files;
  settings: Settings;
  /** Whether pending specs will be written. */
  writesSpecs: boolean;
  project: Project;
  shownProps: ShownProps;
  environments: Environments;
  /** What the set-up files of the runners that take a spec file do; undefined where that can't be told. */
  setupOf(file: string): SetupEffects | undefined;
  /** The facts of each spec file that the checks which take part, or the report, ask for across files. */
  facts: readonly FileFact<unknown>[];
  /** Whether a check takes part in this audit. */
  isOn(code: string): boolean;
}
