import type { Node } from 'oxc-parser';
import { LIST_CHANGERS } from './changed-props.js';
import { namesIn } from '../syntax/module-facts.js';
import { memberName, namesOnTheWay, unwrapped, walkTree, writtenTo } from '../syntax/tree.js';

const CHANGERS: ReadonlySet<string> = new Set([...LIST_CHANGERS, 'add', 'set', 'delete', 'clear']);

/** Names that are given another value, and those whose lists and objects are changed in place. */
export interface ChangedNames {
  written: ReadonlySet<string>;
  /** With the properties that are set, where nothing else is done to the object: else undefined. */
  inPlace: ReadonlyMap<string, ReadonlySet<string> | undefined>;
}

const known = new WeakMap<Node, ChangedNames>();

/** The names that anything in a tree changes; worked out once for each tree. */
export function changedNames(tree: Node): ChangedNames {
  const found = known.get(tree) ?? changesIn(tree);
  known.set(tree, found);
  return found;
}

function changesIn(tree: Node): ChangedNames {
  const written = new Set<string>();
  const inPlace = new Map<string, Set<string> | undefined>();
  walkTree(tree, (node) => {
    const target = writtenTo(node);
    if (target) for (const name of namesIn(target)) written.add(name);
    // `fill(rows);` is called for what it does to what it is handed.
    if (node.type === 'ExpressionStatement' && node.expression.type === 'CallExpression')
      for (const each of node.expression.arguments)
        if (each.type === 'Identifier') inPlace.set(each.name, undefined);
    const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
    const isChange = callee?.type === 'MemberExpression' && CHANGERS.has(memberName(callee) ?? '');
    const changed = isChange
      ? callee.object
      : target?.type === 'MemberExpression'
        ? target.object
        : undefined;
    const [name, ...deeper] = changed ? namesOnTheWay(changed) : [];
    if (name === undefined) return;
    const key = target && deeper.length === 0 ? memberName(target) : undefined;
    const keys = inPlace.has(name) ? inPlace.get(name) : new Set<string>();
    inPlace.set(name, key === undefined ? undefined : keys?.add(key));
  });
  return { written, inPlace };
}
