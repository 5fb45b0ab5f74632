import type { Node } from 'oxc-parser';
import {
  pathOf,
  isFunction,
  literalText,
  unwrapped,
  walkTree,
  type FunctionNode,
} from '../../syntax/tree.js';
import type { LiftedName } from '../model/blocks.js';

/**
 * The first name that the factory of a module reads as it runs, and that the file gives a value only behind it: the
 * runner lifts the call above all statements. `statements`: the top level of the file.
 */
export function liftedName(factory: FunctionNode, statements: readonly Node[]): LiftedName | undefined {
  const late = lateNames(statements);
  const own = new Set<string>();
  let found: LiftedName | undefined;
  for (const each of factory.params)
    walkTree(each, (node) => void (node.type === 'Identifier' && own.add(node.name)));
  const visit = (node: Node): boolean => {
    // What a function inside reads is read once it is called.
    if (found || isFunction(node)) return false;
    if (node.type === 'VariableDeclarator')
      walkTree(node.id, (id) => void (id.type === 'Identifier' && own.add(id.name)));
    if (node.type === 'MemberExpression' && !node.computed) return walkInto(node.object, visit);
    if (node.type === 'Property' && !node.computed) return walkInto(node.value, visit);
    const isConstant = node.type === 'Identifier' && !own.has(node.name) ? late.get(node.name) : undefined;
    if (node.type === 'Identifier' && isConstant !== undefined)
      found = { name: node.name, start: node.start, end: node.end, isConstant };
    return true;
  };
  if (factory.body) walkTree(factory.body as Node, visit);
  return found;
}

function walkInto(node: Node, visit: (node: Node) => boolean): false {
  walkTree(node, visit);
  return false;
}

// Names of the top level that are not there before their statement has run, and whether they hold a literal.
function lateNames(statements: readonly Node[]): Map<string, boolean> {
  const names = new Map<string, boolean>();
  for (const statement of statements) {
    if (statement.type === 'ClassDeclaration' && statement.id) names.set(statement.id.name, false);
    if (statement.type !== 'VariableDeclaration' || statement.kind === 'var') continue;
    for (const { id, init } of statement.declarations) {
      const value = init && unwrapped(init.type === 'AwaitExpression' ? init.argument : init);
      const isLifted = value?.type === 'CallExpression' && pathOf(value.callee) === 'vi.hoisted';
      if (id.type === 'Identifier' && !isLifted)
        names.set(id.name, value ? value.type === 'Literal' || literalText(value) !== undefined : false);
    }
  }
  return names;
}
