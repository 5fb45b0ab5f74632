import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped } from '../../parse/tree.js';
import {
  constant,
  joined,
  memberOf,
  not,
  nullish,
  SOMETHING,
  truthy,
  UNKNOWN,
  UNSURE,
  type Expr,
  type Test,
} from './expr.js';
import { type Bound, DEEPEST, isProps, type Scope } from './scope.js';

/** What an expression gives, as far as it can be read in its scope. */
export function exprOf(node: Node, scope: Scope, depth = 0): Expr {
  const inner = unwrapped(node);
  if (depth > DEEPEST) return UNKNOWN;
  const sub = (each: Node): Expr => exprOf(each, scope, depth + 1);
  switch (inner.type) {
    case 'Literal':
      return 'regex' in inner || typeof inner.value === 'bigint'
        ? UNKNOWN
        : constant(inner.value as string | number | boolean | null);
    case 'TemplateLiteral':
      return joined(
        inner.quasis.flatMap((quasi, i) => {
          const hole = inner.expressions[i];
          return [constant(quasi.value.cooked ?? ''), ...(hole ? [sub(hole)] : [])];
        }),
      );
    case 'BinaryExpression':
      if (inner.operator === '+') return sum(sub(inner.left), sub(inner.right));
      return asBoolean(testOf(inner, scope, depth));
    case 'UnaryExpression':
      return inner.operator === '!'
        ? asBoolean(testOf(inner, scope, depth))
        : negated(inner.operator, sub(inner.argument));
    case 'ConditionalExpression':
      return {
        is: 'if',
        test: testOf(inner.test, scope, depth + 1),
        then: sub(inner.consequent),
        otherwise: sub(inner.alternate),
      };
    case 'LogicalExpression':
      return logical(inner.operator, sub(inner.left), sub(inner.right));
    case 'ObjectExpression':
      return objectOf(inner, scope, depth);
    case 'ArrayExpression':
      return inner.elements.every((each) => each && each.type !== 'SpreadElement')
        ? { is: 'list', items: inner.elements.map((each) => (each ? sub(each) : UNKNOWN)) }
        : SOMETHING;
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
    case 'FunctionDeclaration':
    case 'ClassExpression':
    case 'NewExpression':
    case 'JSXElement':
    case 'JSXFragment':
      return SOMETHING;
    case 'Identifier':
      return inner.name === 'undefined' ? constant(undefined) : named(inner.name, scope, depth);
    case 'MemberExpression':
      return ofMember(inner, scope, depth);
    case 'AssignmentExpression':
      return sub(inner.right);
    default:
      return UNKNOWN;
  }
}

/** Whether an expression is truthy, as a condition over props and constants. */
export function testOf(node: Node, scope: Scope, depth = 0): Test {
  const inner = unwrapped(node);
  if (depth > DEEPEST) return UNSURE;
  const sub = (each: Node): Test => testOf(each, scope, depth + 1);
  switch (inner.type) {
    case 'UnaryExpression':
      return inner.operator === '!' ? not(sub(inner.argument)) : UNSURE;
    case 'LogicalExpression':
      if (inner.operator === '??') break;
      return { is: inner.operator === '&&' ? 'all' : 'any', of: [sub(inner.left), sub(inner.right)] };
    case 'BinaryExpression':
      return comparison(
        inner.operator,
        exprOf(inner.left, scope, depth + 1),
        exprOf(inner.right, scope, depth + 1),
      );
    case 'CallExpression': {
      const callee = unwrapped(inner.callee);
      const [first] = inner.arguments;
      const name = callee.type === 'Identifier' ? callee.name : memberName(callee);
      return (name === 'Boolean' || name === 'isValidElement') && first ? sub(first) : UNSURE;
    }
  }
  return truthy(exprOf(inner, scope, depth + 1));
}

function comparison(operator: string, left: Expr, right: Expr): Test {
  const isNull = (expr: Expr): boolean =>
    expr.is === 'constant' && (expr.value === null || expr.value === undefined);
  const loose = isNull(right) ? nullish(left) : isNull(left) ? nullish(right) : undefined;
  switch (operator) {
    case '===':
      return { is: 'same', left, right };
    case '!==':
      return not({ is: 'same', left, right });
    case '==':
      return loose ?? { is: 'same', left, right };
    case '!=':
      return not(loose ?? { is: 'same', left, right });
    default:
      return UNSURE;
  }
}

const asBoolean = (test: Test): Expr =>
  test === UNSURE ? UNKNOWN : { is: 'if', test, then: constant(true), otherwise: constant(false) };

const negated = (operator: string, expr: Expr): Expr =>
  operator === '-' && expr.is === 'constant' && typeof expr.value === 'number'
    ? constant(-expr.value)
    : UNKNOWN;

function logical(operator: string, left: Expr, right: Expr): Expr {
  if (operator === '??') return { is: 'if', test: nullish(left), then: right, otherwise: left };
  const [then, otherwise] = operator === '&&' ? [right, left] : [left, right];
  return { is: 'if', test: truthy(left), then, otherwise };
}

function objectOf(node: Extract<Node, { type: 'ObjectExpression' }>, scope: Scope, depth: number): Expr {
  const entries: (readonly [string, Expr])[] = [];
  let open = false;
  for (const each of node.properties) {
    const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    const spread = each.type === 'SpreadElement' ? exprOf(each.argument, scope, depth + 1) : undefined;
    if (each.type === 'Property' && key !== undefined)
      entries.push([key, exprOf(each.value, scope, depth + 1)]);
    else if (spread?.is === 'object') {
      entries.push(...spread.entries);
      open ||= spread.open;
    } else {
      // What can't be read may hide all before it.
      entries.length = 0;
      open = true;
    }
  }
  return { is: 'object', entries, open };
}

function sum(left: Expr, right: Expr): Expr {
  const isText = (expr: Expr): boolean =>
    expr.is === 'text' || (expr.is === 'constant' && typeof expr.value === 'string');
  return isText(left) || isText(right) ? joined([left, right]) : UNKNOWN;
}

/** What a name gives; a value that can't be told keeps the name. */
export function named(name: string, scope: Scope, depth = 0): Expr {
  const expr = ofBound(scope.lookup(name), depth);
  return expr === UNKNOWN ? { is: 'unknown', name } : expr;
}

function ofBound(bound: Bound | undefined, depth: number): Expr {
  switch (bound?.is) {
    case 'prop':
      return { is: 'prop', name: bound.name };
    case 'expr':
      return bound.expr;
    case 'node':
      return exprOf(bound.node, bound.scope, depth + 1);
    case 'part':
      return partOf(memberOf(exprOf(bound.of, bound.scope, depth + 1), bound.key), bound, depth);
    case 'assigned':
      return bound.ways.reduce<Expr>(
        (before, { node, test }) => ({
          is: 'if',
          test,
          then: node ? exprOf(node, bound.scope, depth + 1) : UNKNOWN,
          otherwise: before,
        }),
        constant(undefined),
      );
    default:
      return UNKNOWN;
  }
}

/** A value with what stands for it where it is undefined: `{ size = 3 }`. */
export function partOf(
  expr: Expr,
  { fallback, scope }: { fallback?: Node; scope: Scope },
  depth: number,
): Expr {
  if (!fallback) return expr;
  const test: Test = { is: 'same', left: expr, right: constant(undefined) };
  return { is: 'if', test, then: exprOf(fallback, scope, depth + 1), otherwise: expr };
}

function ofMember(node: Extract<Node, { type: 'MemberExpression' }>, scope: Scope, depth: number): Expr {
  const name = memberName(node);
  if (name === undefined) return UNKNOWN;
  if (isProps(node.object, scope)) return { is: 'prop', name };
  return memberOf(exprOf(node.object, scope, depth + 1), name);
}
