import { isInside } from '../util/spans.js';
import type { Component } from '../components/view.js';
import type { Project } from '../project/project.js';
import type { Branch } from './arms.js';
import { markupBranches } from './markup-arms.js';
import { scriptBranches } from './script-arms.js';
import type { State } from './states.js';
import { ScriptScopes, type IsReplaced } from './script-scope.js';

/** A branch with the component that it belongs to. */
interface OwnedBranch {
  component: Component;
  branch: Branch;
}

/**
 * Every branch of a file that declares components, those of its templates included, by place. A branch outside of all
 * components, in a helper of the file, counts as the first one's. Generated files have none.
 */
export function branchesOf(
  project: Project,
  components: readonly Component[],
  isReplaced?: IsReplaced,
): { branches: OwnedBranch[]; states: ReadonlyMap<string, State> } {
  const [first] = components;
  const tree = first && project.tree(first.file);
  if (!first) return NOTHING;
  const markup = components
    .filter(({ framework }) => framework !== 'react')
    .flatMap((component) => markupBranches(component).map((branch) => ({ component, branch })));
  if (!tree || isGenerated(tree.script.comments.map(({ value }) => value))) return NOTHING;
  const { branches, states } = scriptBranches(new ScriptScopes(project, tree, components, isReplaced));
  const script = branches.map((branch) => ({
    component: components.find(({ place }) => isInside(branch.place, place)) ?? first,
    branch,
  }));
  return { branches: [...script, ...markup], states };
}

const NOTHING: { branches: OwnedBranch[]; states: ReadonlyMap<string, State> } = {
  branches: [],
  states: new Map(),
};

const isGenerated = (comments: readonly string[]): boolean =>
  comments.slice(0, 3).some((text) => /@generated|auto-?generated/i.test(text));
