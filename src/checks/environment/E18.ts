import { IMPORTED } from '../questions/facts.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { basename, isTypeScript } from '../../util/paths.js';
import { packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (others: number): string =>
  `This spec file is in JavaScript; the other ${others} of its package are in TypeScript.`;
const advice = (name: string): string => `Rename it to ${name}, so that the compiler reads it too.`;

/** A spec file in another language than all the others of its package. */
export const E18: ProjectCheck = {
  code: 'E18',
  family: 'environment',
  scope: 'project',
  facts: [IMPORTED],
  title: 'Spec in another language than its project',
  level: 'hint',
  why: 'Nobody tells this file that a prop was renamed.',
  certain: 'Sure where the project’s files and the spec’s own name say so.',
  trouble: '// kiln-card.spec.jsx, beside twelve spec files in TypeScript',
  mended: '// kiln-card.spec.tsx',
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

const FEWEST = 4;

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const typed = specFiles.filter(({ path }) => isTypeScript(path));
  const plain = specFiles.filter(({ path }) => !isTypeScript(path));
  const isCompiled = context
    .compilersIn(environment.folder)
    .some(({ file }) => !file.endsWith('jsconfig.json'));
  if (!isCompiled || typed.length < FEWEST || plain.length * FEWEST > typed.length) return [];
  return plain
    .filter((file) => !testsScripts(file))
    .map((file) => ({
      place: { file: file.path, start: 0, end: 0 },
      certainty: 'sure',
      message: message(typed.length),
      advice: advice(basename(file.path).replace(/js(x?)$/, 'ts$1')),
      evidence: typed
        .slice(0, 1)
        .map(({ path }) => ({ file: path, start: 0, end: 0, note: 'written in TypeScript' })),
    }));
}

// Specs of JavaScript sources, such as scripts and settings, speak their language.
const testsScripts = (file: SpecFileFacts): boolean =>
  [...file.get(IMPORTED)].some((path) => /\.[cm]?jsx?$/.test(path));
