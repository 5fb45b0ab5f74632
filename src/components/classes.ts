import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped } from '../syntax/tree.js';
import { optionsOf, textPieces, type Expr } from './expr.js';
import { exprOf } from './expressions.js';
import { resolved, type Scope } from './scope.js';
import { NO_CLASSES, words, type ClassList } from './view.js';

const JOINERS = new Set(['clsx', 'classnames', 'classNames', 'cx', 'cn', 'cc', 'css']);

/** The class names that an expression gives: a string, a list, an object of conditions, or a helper that joins them. */
export function classesOf(node: Node, scope: Scope): ClassList {
  const inner = unwrapped(node);
  switch (inner.type) {
    case 'ConditionalExpression':
      return maybe(classesOf(inner.consequent, scope), classesOf(inner.alternate, scope));
    case 'LogicalExpression':
      return maybe(
        classesOf(inner.right, scope),
        inner.operator === '&&' ? NO_CLASSES : classesOf(inner.left, scope),
      );
    case 'ArrayExpression':
      return together(inner.elements.map((each) => (each ? classesOf(each, scope) : NO_CLASSES)));
    case 'ObjectExpression':
      return together(inner.properties.map((each) => ofCondition(each, scope)));
    case 'CallExpression':
      return ofCall(inner, scope);
    case 'Identifier': {
      const found = resolved(inner, scope);
      return found && found.node !== inner && found.node.type !== 'Identifier'
        ? classesOf(found.node, found.scope)
        : classesIn(exprOf(inner, scope));
    }
    default:
      return classesIn(exprOf(inner, scope));
  }
}

/** The class names in a text. A word that touches a hole is not known. */
export function classesIn(expr: Expr): ClassList {
  const options = optionsOf(expr);
  if (options) return maybe(...options.map(classesIn));
  const marked = textPieces(expr)
    .map((piece) => (typeof piece === 'string' ? piece : '\u0000'))
    .join('');
  const all = words(marked);
  const always = all.filter((word) => !word.includes('\u0000'));
  return { always, maybe: [], open: always.length < all.length };
}

/** Several lists on one element. */
export function together(lists: readonly ClassList[]): ClassList {
  const filled = lists.filter((each) => each !== NO_CLASSES);
  if (filled.length < 2) return filled[0] ?? NO_CLASSES;
  return {
    always: lists.flatMap((each) => each.always),
    maybe: lists.flatMap((each) => each.maybe),
    open: lists.some((each) => each.open),
  };
}

const maybe = (...lists: ClassList[]): ClassList => {
  const all = together(lists);
  return { always: [], maybe: [...all.always, ...all.maybe], open: all.open };
};

function ofCondition(property: Node, scope: Scope): ClassList {
  if (property.type === 'SpreadElement') return classesOf(property.argument, scope);
  if (property.type !== 'Property') return { ...NO_CLASSES, open: true };
  const name = propertyName(property.key, property.computed);
  if (name === undefined) return maybe(classesIn(exprOf(property.key, scope)));
  const value = exprOf(property.value, scope);
  const always = value.is === 'constant' && Boolean(value.value);
  return always
    ? { always: words(name), maybe: [], open: false }
    : { always: [], maybe: words(name), open: false };
}

function ofCall(node: Extract<Node, { type: 'CallExpression' }>, scope: Scope): ClassList {
  const callee = unwrapped(node.callee);
  const method = memberName(callee);
  if (callee.type === 'MemberExpression' && (method === 'join' || method === 'filter' || method === 'trim')) {
    return classesOf(callee.object, scope);
  }
  const all = together(
    node.arguments.map((each) =>
      each.type === 'SpreadElement' ? { ...NO_CLASSES, open: true } : classesOf(each, scope),
    ),
  );
  const known = callee.type === 'Identifier' && JOINERS.has(callee.name);
  return known ? all : { always: [], maybe: [...all.always, ...all.maybe], open: true };
}
