import type { Files } from '../discover/files.js';
import type { Environment } from '../environment/environment.js';
import { readSpecFile } from '../model/specs/suite.js';
import type { Block } from '../model/specs/blocks.js';
import type { Project } from '../model/project.js';
import type { Step } from '../model/specs/steps.js';
import { isScript } from '../parse/script.js';

/** What set-up files do around every spec: the steps of their each-hooks. */
export interface SetupEffects {
  steps: readonly Step[];
}

/** Reads the set-up files of an environment; undefined where one of them, or their list, can't be read. */
export function setupEffects(
  environment: Environment,
  files: Files,
  project: Project,
): SetupEffects | undefined {
  if (environment.runners.length === 0) return undefined;
  const steps: Step[] = [];
  for (const runner of environment.runners) {
    if (!runner.setupFiles.known) return undefined;
    for (const { candidates } of runner.setupFiles.value) {
      const path = candidates.find((each) => isScript(each) && files.kind(each) === 'file');
      const tree = path && project.tree(path);
      if (!tree) continue;
      const { blocks } = readSpecFile(project, tree, { render: [], act: [], assert: [] });
      steps.push(...blocks.filter(isEach).flatMap((block) => block.steps));
    }
  }
  return { steps };
}

const isEach = (block: Block): boolean => block.hook === 'after-each' || block.hook === 'before-each';
