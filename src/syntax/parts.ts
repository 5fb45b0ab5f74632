import type { Node } from 'oxc-parser';
import { calledName, memberName, propertyName, unwrapped, type ObjectNode } from './tree.js';

/** What a module gives its values as parts, by the value's name and the part's: `Lid.Handle = LidHandle`. */
type Parts = ReadonlyMap<string, ReadonlyMap<string, Node>>;

/**
 * Reads the parts that a module gives to what it declares: by assignment, by `Object.assign`, as static fields of a class
 * and in objects of parts. Only names with a capital count: those of components. What a module exports by default without
 * a name goes by `default`.
 */
export function partsIn(statements: readonly Node[]): Parts {
  const parts = new Map<string, Map<string, Node>>();
  const add = (owner: string, part: string | undefined, node: Node): void => {
    if (part === undefined || !/^[A-Z]/.test(part)) return;
    const known = parts.get(owner) ?? new Map<string, Node>();
    parts.set(owner, known.set(part, node));
  };
  const addAll = (owner: string, object: ObjectNode): void => {
    for (const each of object.properties)
      if (each.type === 'Property') add(owner, propertyName(each.key, each.computed), each.value);
  };
  // `Object.assign(LidRoot, { Handle })`, under the name that it is given, and under that of what it adds to.
  const assigned = (owner: string | undefined, node: Node): void => {
    const call = unwrapped(node);
    if (call.type === 'ObjectExpression' && owner !== undefined) addAll(owner, call);
    if (call.type !== 'CallExpression' || calledName(call) !== 'assign') return;
    const [target, ...sources] = call.arguments.map((each) => unwrapped(each));
    const owners = [owner, target?.type === 'Identifier' ? target.name : undefined];
    for (const each of sources)
      if (each.type === 'ObjectExpression')
        for (const name of owners) if (name !== undefined) addAll(name, each);
  };
  for (const statement of statements) {
    const node =
      statement.type === 'ExportNamedDeclaration' || statement.type === 'ExportDefaultDeclaration'
        ? (statement.declaration as Node | null)
        : statement;
    switch (node?.type) {
      case 'VariableDeclaration':
        for (const { id, init } of node.declarations)
          if (id.type === 'Identifier' && init) assigned(id.name, init);
        break;
      case 'ClassDeclaration':
        for (const each of node.body.body)
          if (each.type === 'PropertyDefinition' && each.static && each.value && node.id)
            add(node.id.name, propertyName(each.key, each.computed), each.value);
        break;
      case 'ExpressionStatement': {
        const inner = unwrapped(node.expression);
        if (inner.type !== 'AssignmentExpression') assigned(undefined, inner);
        else if (inner.left.type === 'MemberExpression') {
          const owner = unwrapped(inner.left.object);
          if (owner.type === 'Identifier') add(owner.name, memberName(inner.left), inner.right);
        }
        break;
      }
      default:
        if (node && statement.type === 'ExportDefaultDeclaration') assigned('default', node);
    }
  }
  return parts;
}
