import type { Finding } from '../../finding.js';
import { mayMakeSpecs } from '../../project/module-questions.js';
import { relativeTo } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';

const message = (runner: string, name: string): string =>
  `${runner} takes ${name} for a spec file, and stops at a file that holds no spec.`;
const adviceHelper = 'Give it a name, or a folder, that the patterns do not take: it holds what others use.';
const adviceEmpty = 'Write a spec into it, or delete it.';

/** A file that a run collects and that holds no spec. */
export const E29: ProjectCheck = {
  code: 'E29',
  family: 'environment',
  scope: 'project',
  title: 'Collected file without a spec',
  level: 'blocker',
  why: 'The run is red: “Your test suite must contain at least one test”.',
  certain: 'Sure where the patterns of the run can be read, and nothing in the file could make a spec.',
  trouble: '// src/__tests__/helpers.ts\nexport const kilns = [];',
  mended: '// src/testing/helpers.ts\nexport const kilns = [];',
  run: (context) => [...context.specless, ...context.sources].flatMap((path) => check(path, context)),
};

// jest 27 to 30, vitest 1 to 4; others pass over such a file.
const STOPS: ReadonlySet<string> = new Set(['jest', 'react-scripts', 'vitest']);

function check(path: string, context: ProjectContext): Finding[] {
  const environment = context.environmentOf(path);
  const [runner, ...others] = environment.runnersOf(path);
  if (!runner?.collects.known || others.length > 0 || !STOPS.has(runner.runner)) return [];
  if (mayMakeSpecs(context.project, path)) return [];
  const gives = (context.project.summary(path)?.exports.size ?? 0) > 0;
  return [
    {
      place: { file: path, start: 0, end: 0 },
      certainty: 'sure',
      message: message(runner.runner, relativeTo(context.root, path)),
      advice: gives ? adviceHelper : adviceEmpty,
      evidence: [{ ...runner.collects.value.at, note: 'the patterns of the run' }],
    },
  ];
}
