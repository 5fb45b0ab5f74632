import { functionKey, type Expr } from '../components/expr.js';
import { contextOfKey, declaredContext, firstGiven } from '../components/frameworks/react/contexts.js';
import { moduleScope } from '../components/frameworks/react/react.js';
import { isInstalled } from '../util/paths.js';
import type { Project } from './project.js';

/** The key of a context of React by the module that declares it, whichever way others come by it; all other keys as they are. */
export function asDeclared(key: string, project: Project): string {
  const found = contextOfKey(key);
  if (!found) return key;
  const { file, name, specifier } = found;
  if (specifier !== undefined) return declaredContext(project.exportKey(file, { specifier, name }));
  const from = isInstalled(file) ? undefined : project.summary(file)?.imports.get(name);
  return declaredContext(from ? project.exportKey(file, from) : functionKey(file, name));
}

const known = new WeakMap<Project, Map<string, Expr | undefined>>();

/**
 * What a context of the project gives where nobody provides anything, by its key as it is declared; undefined where that
 * can't be read, and of contexts of packages, of which several copies may be installed.
 */
export function givenAtFirst(declared: string, project: Project): Expr | undefined {
  const firsts = known.get(project) ?? new Map<string, Expr | undefined>();
  known.set(project, firsts);
  if (!firsts.has(declared)) firsts.set(declared, readFirst(declared, project));
  return firsts.get(declared);
}

function readFirst(declared: string, project: Project): Expr | undefined {
  const { file, name } = contextOfKey(declared) ?? {};
  const tree =
    file === undefined || isInstalled(file) || !project.summary(file) ? undefined : project.tree(file);
  const node = tree && name !== undefined ? tree.facts.declarations.get(name) : undefined;
  return node && tree && firstGiven(node, moduleScope(tree.script.source, tree.facts));
}
