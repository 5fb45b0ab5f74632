import type { Node } from 'oxc-parser';
import { calledName, memberName, propertyName, unwrapped, walkTree } from '../../../syntax/tree.js';
import { joinedClones, NO_CLONES, type Clones } from '../../view.js';

/** What a component gives to elements that it is handed: of its calls of `cloneElement`, the names in their second argument. */
export function clonesIn(component: Node): Clones | undefined {
  const objects = new Map<string, Node>();
  let found: Clones | undefined;
  walkTree(component, (node) => {
    if (node.type === 'VariableDeclarator' && node.id.type === 'Identifier' && node.init)
      objects.set(node.id.name, node.init);
    if (node.type === 'CallExpression' && calledName(node) === 'cloneElement')
      found = joinedClones(found ?? NO_CLONES, namesIn(node.arguments[1], objects));
  });
  return found;
}

function namesIn(node: Node | undefined, objects: ReadonlyMap<string, Node>, depth = 0): Clones {
  if (!node || depth > 4) return node ? 'any' : NO_CLONES;
  const given = unwrapped(node);
  const sub = (each: Node): Clones => namesIn(each, objects, depth + 1);
  switch (given.type) {
    case 'ObjectExpression':
      return given.properties.reduce<Clones>((names, each) => {
        if (each.type === 'SpreadElement') return joinedClones(names, sub(each.argument));
        const name = propertyName(each.key, each.computed);
        return joinedClones(names, name === undefined ? 'any' : new Set([name]));
      }, NO_CLONES);
    case 'LogicalExpression':
      return sub(given.right);
    case 'ConditionalExpression':
      return joinedClones(sub(given.consequent), sub(given.alternate));
    case 'Literal':
      return NO_CLONES;
    // `...child.props`: what it has already.
    case 'MemberExpression':
      return memberName(given) === 'props' ? NO_CLONES : 'any';
    case 'Identifier': {
      const object = objects.get(given.name);
      return object ? sub(object) : 'any';
    }
    default:
      return 'any';
  }
}
