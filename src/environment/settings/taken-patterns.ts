import type { Node } from 'oxc-parser';
import { literalText, memberName, unwrapped, type FunctionNode } from '../../syntax/tree.js';
import { allKnown } from '../../util/all-known.js';
import { escaped } from '../../util/pattern.js';

/**
 * The patterns of which the first argument of a function must match one for it to do anything, as regular expressions:
 * `(id) => { if (/\.css$/.test(id)) … }`. Undefined where it may do something for any argument.
 */
export function patternsTaken({ params: [param], body }: FunctionNode): string[] | undefined {
  if (body?.type !== 'BlockStatement' || param?.type !== 'Identifier') return undefined;
  const taken = body.body.map((statement) => {
    if (statement.type === 'ReturnStatement') return isNothing(statement.argument) ? [] : undefined;
    return statement.type === 'IfStatement' && !statement.alternate
      ? patternsIn(statement.test, param.name)
      : undefined;
  });
  return allKnown(taken)?.flat();
}

const isNothing = (node: Node | null): boolean =>
  !node ||
  (node.type === 'Literal' && node.value === null) ||
  (node.type === 'Identifier' && node.name === 'undefined');

function patternsIn(condition: Node, name: string): string[] | undefined {
  const test = unwrapped(condition);
  if (test.type === 'LogicalExpression') {
    const [left, right] = [test.left, test.right].map((side) => patternsIn(side, name));
    if (test.operator === '&&') return left ?? right;
    return left && right && [...left, ...right];
  }
  const isArgument = (node: Node | undefined): boolean => node?.type === 'Identifier' && node.name === name;
  if (test.type === 'BinaryExpression' && /^===?$/.test(test.operator)) {
    const text = literalText(isArgument(test.left) ? test.right : test.left);
    const compares = isArgument(test.left) || isArgument(test.right);
    return compares && text !== undefined ? [`^${escaped(text)}$`] : undefined;
  }
  if (test.type !== 'CallExpression' || test.callee.type !== 'MemberExpression') return undefined;
  const { object } = test.callee;
  const [first] = test.arguments;
  const method = memberName(test.callee);
  if (method === 'test' && object.type === 'Literal' && 'regex' in object && isArgument(first))
    return /[imsuvy]/.test(object.regex.flags) ? undefined : [object.regex.pattern];
  const text = first && literalText(first);
  if (!isArgument(object) || text === undefined) return undefined;
  if (method === 'endsWith') return [`${escaped(text)}$`];
  if (method === 'startsWith') return [`^${escaped(text)}`];
  return method === 'includes' ? [escaped(text)] : undefined;
}
