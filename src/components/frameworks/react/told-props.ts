import type { Node } from 'oxc-parser';
import type { Span } from '../../../finding.js';
import { unwrapped, walkTree } from '../../../syntax/tree.js';
import { propRead } from '../../changed-props.js';
import { withWhatComes, type Output } from '../../outputs.js';

const IS_LISTENER = /^on[A-Z]/;

/**
 * The events that a component tells others of: the props that its own code calls, by the names of listeners, as
 * `onFire`, or in statements of their own, each with its first call. `locals`: the names that it takes props by, each
 * with the prop's name.
 */
export function toldProps(nodes: readonly Node[], locals: ReadonlyMap<string, string>): Map<string, Output> {
  const found = new Map<string, Span>();
  for (const node of nodes) {
    walkTree(node, (each) => {
      const call = calledIn(each);
      const name = call && propRead(call.callee, locals);
      const isTold = each.type === 'ExpressionStatement' || (name !== undefined && IS_LISTENER.test(name));
      if (call && name !== undefined && isTold && !found.has(name))
        found.set(name, { start: call.start, end: call.end });
      const handed = handedIn(each, locals);
      if (handed !== undefined && !found.has(handed)) found.set(handed, { start: each.start, end: each.end });
    });
  }
  return withWhatComes(found, nodes, (node) => {
    const handed = handedIn(node, locals);
    if (handed !== undefined) return { event: handed };
    const event = node.type === 'CallExpression' ? propRead(node.callee, locals) : undefined;
    return event !== undefined && node.type === 'CallExpression'
      ? { event, args: node.arguments }
      : undefined;
  });
}

// The prop that an element is given to call at an event of the page: `<button onClick={onFire}>`.
function handedIn(node: Node, locals: ReadonlyMap<string, string>): string | undefined {
  if (node.type !== 'JSXAttribute' || node.name.type !== 'JSXIdentifier') return undefined;
  if (!OF_PAGE.has(node.name.name) || node.value?.type !== 'JSXExpressionContainer') return undefined;
  const { expression } = node.value;
  const prop = expression.type === 'JSXEmptyExpression' ? undefined : propRead(expression, locals);
  // `onClick={onClick}` only lets through what is its element's own.
  return prop !== undefined && OF_PAGE.has(prop) ? undefined : prop;
}

const OF_PAGE: ReadonlySet<string> = new Set(
  'onClick onDoubleClick onSubmit onReset onChange onInput onFocus onBlur onKeyDown onKeyUp onMouseEnter onMouseLeave'.split(
    ' ',
  ),
);

type CallNode = Extract<Node, { type: 'CallExpression' }>;

// A call, or the one that a statement makes: `fire();`, `await fire?.();`, `fire && fire();`
function calledIn(node: Node): CallNode | undefined {
  if (node.type === 'CallExpression') return node;
  if (node.type !== 'ExpressionStatement') return undefined;
  let at = unwrapped(node.expression);
  if (at.type === 'AwaitExpression') at = unwrapped(at.argument);
  if (at.type === 'LogicalExpression') at = unwrapped(at.right);
  return at.type === 'CallExpression' ? at : undefined;
}
