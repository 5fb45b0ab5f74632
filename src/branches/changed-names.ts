import type { Node, Program } from 'oxc-parser';
import { LIST_CHANGERS } from '../components/changed-props.js';
import { memberName, namesOnTheWay, unwrapped, walkTree, writtenTo } from '../syntax/tree.js';

const CHANGERS: ReadonlySet<string> = new Set([...LIST_CHANGERS, 'add', 'set', 'delete', 'clear']);

/** Names that are given another value, or whose lists and objects are changed in place. */
export function changedNames(program: Program): Set<string> {
  const found = new Set<string>();
  walkTree(program as Node, (node) => {
    const target = writtenTo(node);
    if (target?.type === 'Identifier') found.add(target.name);
    const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
    const isChange = callee?.type === 'MemberExpression' && CHANGERS.has(memberName(callee) ?? '');
    const changed = isChange
      ? callee.object
      : target?.type === 'MemberExpression'
        ? target.object
        : undefined;
    const [name] = changed ? namesOnTheWay(changed) : [];
    if (name !== undefined) found.add(name);
    if (
      node.type === 'AssignmentExpression' &&
      (node.left.type === 'ObjectPattern' || node.left.type === 'ArrayPattern')
    )
      walkTree(node.left, (each) => void (each.type === 'Identifier' && found.add(each.name)));
  });
  return found;
}
