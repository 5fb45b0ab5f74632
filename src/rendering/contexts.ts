import type { Expr } from '../components/expr.js';
import { contextOfKey } from '../components/frameworks/react/contexts.js';
import { asDeclared, givenAtFirst } from '../project/contexts.js';
import type { Project } from '../project/project.js';
import type { Contexts } from './rendered-tree.js';

/** Where nothing is known of what is provided. */
export const UNREAD: Contexts = { provided: new Map(), open: true };

/** Whether a key is that of a context. */
export const isContextKey = (key: string): boolean => contextOfKey(key) !== undefined;

/** What a context gives at a place, by its key; undefined where that can't be told. */
export function givenByContext(
  key: string,
  { provided, open, replaced }: Contexts,
  project: Project,
): Expr | undefined {
  const declared = asDeclared(key, project);
  if (provided.has(declared)) return provided.get(declared);
  const module = contextOfKey(declared)?.file;
  const isKnown = !open && (module === undefined || !replaced?.has(module));
  return isKnown ? givenAtFirst(declared, project) : undefined;
}
