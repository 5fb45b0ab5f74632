import type { Node } from 'oxc-parser';
import { memberName, unwrapped, walkTree } from '../syntax/tree.js';
import type { Span } from '../finding.js';

/** Methods that change the list that they are called on. */
export const LIST_CHANGERS: readonly string[] =
  'sort reverse push pop shift unshift splice fill copyWithin'.split(' ');
const CHANGERS: ReadonlySet<string> = new Set(LIST_CHANGERS);
const MAY_CHANGE = new RegExp(`\\.(?:${LIST_CHANGERS.join('|')})\\(`);

/**
 * The props whose lists a component changes in place, each with the first place that does.
 * `locals` are names that hold a prop; props are also known as `props.x`, `this.props.x`, and, for those of `own`, `this.x`.
 */
export function changedProps(
  text: string,
  nodes: readonly Node[],
  locals: ReadonlyMap<string, string>,
  own: ReadonlySet<string> = new Set(),
): Map<string, Span> {
  const found = new Map<string, Span>();
  if (!MAY_CHANGE.test(text)) return found;
  const isReplaced = new Set<string>();
  for (const each of nodes)
    walkTree(each, (node) => {
      if (node.type === 'AssignmentExpression' && node.left.type === 'Identifier')
        isReplaced.add(node.left.name);
      const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
      if (callee?.type !== 'MemberExpression' || !CHANGERS.has(memberName(callee) ?? '')) return;
      const prop = propRead(callee.object, locals, own);
      if (prop !== undefined && !found.has(prop)) found.set(prop, { start: node.start, end: node.end });
    });
  // A name that is given another value holds the prop no longer.
  for (const [local, prop] of locals) if (isReplaced.has(local)) found.delete(prop);
  return found;
}

/** The prop that an expression is, by the names that hold props, as `props.x`, as `this.props.x` or, of `own`, as `this.x`. */
export function propRead(
  node: Node,
  locals: ReadonlyMap<string, string>,
  own: ReadonlySet<string> = new Set(),
): string | undefined {
  const inner = unwrapped(node);
  if (inner.type === 'Identifier') return locals.get(inner.name);
  const name = memberName(inner);
  if (inner.type !== 'MemberExpression' || name === undefined) return undefined;
  const object = unwrapped(inner.object);
  if (object.type === 'Identifier') return object.name === 'props' ? name : undefined;
  if (object.type === 'ThisExpression') return own.has(name) ? name : undefined;
  return memberName(object) === 'props' ? name : undefined;
}
