import type { Node, Program } from 'oxc-parser';
import { memberName, unwrapped, walkTree } from './tree.js';

type Conditional = Extract<Node, { type: 'ConditionalExpression' }>;

/**
 * Makes `??` and `?.` again of what Babel, TypeScript and esbuild make of them for older targets:
 * `(_a = slots.root) != null ? _a : Root`, `field === null || field === void 0 ? void 0 : field.id`. The nodes are changed in
 * place, and keep their spans.
 */
export function readCompiledForms(program: Program): void {
  walkTree(program, (node) => {
    if (node.type === 'ConditionalExpression') restore(node);
  });
}

function restore(node: Conditional): void {
  const asked = nullAskedOf(node.test);
  if (!asked) return;
  const { value, name, isNull } = asked;
  const [whenNull, otherwise] = isNull
    ? [node.consequent, node.alternate]
    : [node.alternate, node.consequent];
  const isSame = (each: Node): boolean => {
    const path = pathIn(each);
    return path !== undefined && path === (name ?? pathIn(value));
  };
  if (isSame(unwrapped(otherwise))) {
    Object.assign(node, { type: 'LogicalExpression', operator: '??', left: value, right: whenNull });
    return;
  }
  if (!isVoid(whenNull)) return;
  const member = innermost(unwrapped(otherwise), isSame);
  if (!member) return;
  member.object = value as typeof member.object;
  member.optional = true;
  Object.assign(node, { ...unwrapped(otherwise), start: node.start, end: node.end });
}

// `(_a = value) != null`, `value === null || value === void 0`: what is asked, and the name that it is kept by.
function nullAskedOf(test: Node): { value: Node; name: string | undefined; isNull: boolean } | undefined {
  const inner = unwrapped(test);
  if (inner.type === 'LogicalExpression' && (inner.operator === '||' || inner.operator === '&&')) {
    const [first, second] = [compared(inner.left), compared(inner.right)];
    const operator = inner.operator === '||' ? '===' : '!==';
    if (!first || !second || first.operator !== operator || second.operator !== operator) return undefined;
    const again = pathIn(second.of);
    const isOne = first.isNull && !second.isNull && again !== undefined;
    return isOne && again === (first.name ?? pathIn(first.of))
      ? { value: first.of, name: first.name, isNull: operator === '===' }
      : undefined;
  }
  const only = compared(inner);
  return only?.isNull && (only.operator === '==' || only.operator === '!=')
    ? { value: only.of, name: only.name, isNull: only.operator === '==' }
    : undefined;
}

function compared(
  node: Node,
): { of: Node; name: string | undefined; operator: string; isNull: boolean } | undefined {
  const inner = unwrapped(node);
  if (inner.type !== 'BinaryExpression') return undefined;
  const right = unwrapped(inner.right);
  const isNull = right.type === 'Literal' && right.value === null && !('regex' in right);
  if (!isNull && !isVoid(right)) return undefined;
  const left = unwrapped(inner.left);
  const isKept =
    left.type === 'AssignmentExpression' && left.operator === '=' && left.left.type === 'Identifier';
  return isKept
    ? {
        of: unwrapped(left.right),
        name: (left.left as { name: string }).name,
        operator: inner.operator,
        isNull,
      }
    : { of: left, name: undefined, operator: inner.operator, isNull };
}

const isVoid = (node: Node): boolean => {
  const inner = unwrapped(node);
  return (
    (inner.type === 'UnaryExpression' && inner.operator === 'void') ||
    (inner.type === 'Identifier' && inner.name === 'undefined')
  );
};

// `a.b.c` as a text, for names and members of names.
function pathIn(node: Node): string | undefined {
  if (node.type === 'Identifier') return node.name;
  if (node.type === 'ThisExpression') return 'this';
  if (node.type !== 'MemberExpression') return undefined;
  const [of, name] = [pathIn(unwrapped(node.object)), memberName(node)];
  return of === undefined || name === undefined ? undefined : `${of}.${name}`;
}

// The member whose object is what was asked, at the bottom of `_a.b(c).d`.
function innermost(
  node: Node,
  isSame: (each: Node) => boolean,
): Extract<Node, { type: 'MemberExpression' }> | undefined {
  if (node.type === 'CallExpression') return innermost(unwrapped(node.callee), isSame);
  if (node.type !== 'MemberExpression') return undefined;
  return isSame(unwrapped(node.object)) ? node : innermost(unwrapped(node.object), isSame);
}
