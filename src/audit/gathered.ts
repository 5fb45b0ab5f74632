import type { ProjectContext } from '../checks/questions/context.js';
import type { Component } from '../components/view.js';
import type { Problem } from '../syntax/source.js';
import type { CheckedSpecFile, Coded } from './spec-file.js';
import type { AuditSession } from './session.js';

/** All that the stages before have gathered. */
export interface Gathered {
  session: AuditSession;
  components: readonly Component[];
  checked: readonly CheckedSpecFile[];
  found: readonly Coded[];
  context: ProjectContext;
  unread: readonly Problem[];
  specPaths: ReadonlySet<string>;
  version: string;
}
