import { isMatcherExtension } from '../../libraries/matchers.js';
import { readSpecFile } from '../../specs/reader/suite.js';
import type { ProjectContext } from './context.js';

/** What a file sets up for specs, as a phrase, and whether the runner's functions must be there for it; undefined for none. */
export function setsUp(
  path: string,
  { project }: ProjectContext,
): { what: string; needsRunner: boolean } | undefined {
  const tree = project.tree(path);
  if (!tree) return undefined;
  const registers = tree.facts.modules.some(({ specifier }) => isMatcherExtension(specifier));
  if (registers || (project.summary(path)?.addedMatchers.names.length ?? 0) > 0)
    return { what: 'registers matchers', needsRunner: true };
  if (tree.facts.modules.some(({ specifier }) => TEST_BEDS.test(specifier)))
    return { what: 'sets the test bed up', needsRunner: true };
  const { root, standIns } = readSpecFile(project, tree, { render: [], act: [], assert: [] });
  if (root.children.some(({ kind }) => kind === 'hook'))
    return { what: 'has hooks for every spec', needsRunner: true };
  if (tree.facts.modules.some(({ specifier }) => ADAPTERS.test(specifier)))
    return { what: 'sets an adapter up', needsRunner: false };
  // A render library is told how to render: `config` of those that mount, `configure` of those that query.
  const isTold = [...tree.facts.imports.values()].some(
    ({ specifier, name }) => /^config(?:ure)?$/.test(name) && project.libraries.of(specifier),
  );
  if (isTold) return { what: 'tells a render library how to render', needsRunner: false };
  return standIns.length > 0 ? { what: 'puts stand-ins in place', needsRunner: false } : undefined;
}

// They set Angular's test bed up, with hooks of their own.
const TEST_BEDS = /^jest-preset-angular\/setup|^@analogjs\/vitest-angular\/setup/;
/** Modules that tell a render library of which framework's version it renders. */
export const ADAPTERS = /^(?:@wojtekmaj\/|@zarconontol\/|@cfaester\/)?enzyme-adapter-/;
