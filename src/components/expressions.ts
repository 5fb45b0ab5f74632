import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped } from '../syntax/tree.js';
import { isConversion, isMethod, isOperation } from '../language/operations.js';
import {
  computed,
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
      return isOperation(inner.operator)
        ? computed(inner.operator, [sub(inner.left), sub(inner.right)])
        : asBoolean(testOf(inner, scope, depth));
    case 'UnaryExpression':
      if (inner.operator === '!') return asBoolean(testOf(inner, scope, depth));
      return inner.operator === '-' || inner.operator === 'typeof'
        ? computed(inner.operator === '-' ? 'negative' : 'typeof', [sub(inner.argument)])
        : UNKNOWN;
    case 'CallExpression':
      return ofCall(inner, scope, depth);
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
      if ((name === 'Boolean' || name === 'isValidElement') && first) return sub(first);
      const list = name === 'includes' && first ? listOf(callee, scope, depth) : undefined;
      if (!list || !first) break;
      const right = exprOf(first, scope, depth + 1);
      return { is: 'any', of: list.map((left): Test => ({ is: 'same', left, right })) };
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
      return isOperation(operator) ? truthy(computed(operator, [left, right])) : UNSURE;
  }
}

const asBoolean = (test: Test): Expr =>
  test === UNSURE ? UNKNOWN : { is: 'if', test, then: constant(true), otherwise: constant(false) };

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
  return isText(left) || isText(right) ? joined([left, right]) : computed('+', [left, right]);
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

// `['open', 'shut'].includes(…)`
function listOf(callee: Node, scope: Scope, depth: number): readonly Expr[] | undefined {
  if (callee.type !== 'MemberExpression') return undefined;
  const list = exprOf(callee.object, scope, depth + 1);
  return list.is === 'list' && list.items.every(({ is }) => is === 'constant') ? list.items : undefined;
}

// A call of an operation, of a signal, or of a function whose result the scope can tell.
function ofCall(node: Extract<Node, { type: 'CallExpression' }>, scope: Scope, depth: number): Expr {
  const callee = unwrapped(node.callee);
  const given = node.arguments.map((each) => exprOf(each, scope, depth + 1));
  const result = scope.called?.(callee, given, scope, depth);
  if (result) return result;
  const method = callee.type === 'MemberExpression' ? memberName(callee) : undefined;
  if (callee.type === 'Identifier' && isConversion(callee.name)) return computed(callee.name, given);
  if (callee.type !== 'MemberExpression' || method === undefined) return UNKNOWN;
  const space = callee.object.type === 'Identifier' ? `${callee.object.name}.${method}` : '';
  if (isOperation(space)) return computed(space, given);
  if (method === 'includes' && listOf(callee, scope, depth)) return asBoolean(testOf(node, scope, depth));
  const [first] = node.arguments;
  if (method === 'test' && callee.object.type === 'Literal' && 'regex' in callee.object && given[0])
    return computed('matches', [given[0], constant(callee.object.raw ?? '')]);
  if (!isMethod(method) || first?.type === 'SpreadElement') return UNKNOWN;
  const of = exprOf(callee.object, scope, depth + 1);
  const made = computed(method, [of, ...given]);
  // `code?.trim()`
  return callee.optional ? { is: 'if', test: nullish(of), then: constant(undefined), otherwise: made } : made;
}

function ofMember(node: Extract<Node, { type: 'MemberExpression' }>, scope: Scope, depth: number): Expr {
  const name = memberName(node);
  if (name === undefined) return UNKNOWN;
  if (isProps(node.object, scope)) return { is: 'prop', name };
  if (node.object.type === 'ThisExpression') return named(`this.${name}`, scope, depth);
  return memberOf(exprOf(node.object, scope, depth + 1), name, node.optional);
}
