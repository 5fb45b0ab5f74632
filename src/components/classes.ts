import type { Node } from 'oxc-parser';
import { memberName, unwrapped } from '../syntax/tree.js';
import { UNKNOWN, type Expr } from './expr.js';
import { textPieces } from './expr-text.js';
import { exprOf, conditionFrom } from './read-expr.js';
import type { ComponentScope } from './scope.js';
import { NO_CLASSES, words, type ClassList } from './view.js';

const JOINERS = new Set(['clsx', 'classnames', 'classNames', 'cx', 'cn', 'cc', 'css']);
const KEEPING = new Set(['join', 'filter', 'trim']);

/** The class names that an expression gives: a string, a list, an object of conditions, or a helper that joins them. */
export const classesOf = (node: Node, scope: ComponentScope): ClassList =>
  classesIn(exprOf(node, joining(scope)));

// A helper that joins class names gives all that it is given; any other may give them, and more.
const joining = (scope: ComponentScope): ComponentScope => ({
  ...scope,
  called(call, args, inside, depth) {
    const known = scope.called?.(call, args, inside, depth);
    if (known) return known;
    const callee = unwrapped(call.callee);
    const method = memberName(callee);
    if (callee.type === 'MemberExpression' && method !== undefined && KEEPING.has(method))
      return exprOf(callee.object, inside, depth);
    if (callee.type !== 'Identifier' && callee.type !== 'MemberExpression') return undefined;
    if (callee.type === 'Identifier' && JOINERS.has(callee.name)) return { is: 'list', items: args };
    return args.length > 0 ? { is: 'choice', options: [{ is: 'list', items: args }, UNKNOWN] } : undefined;
  },
});

/** The class names in a value, or in the values of which one is given. A word that touches a hole is not known. */
export function classesIn(expr: Expr): ClassList {
  switch (expr.is) {
    case 'if':
      // `open && 'open'`: nothing where it does not hold.
      return maybe(classesIn(expr.then), isFalsyPart(expr) ? NO_CLASSES : classesIn(expr.otherwise));
    case 'choice':
      return maybe(...expr.options.map(classesIn));
    case 'list':
      return joinedClasses(expr.items.map(classesIn));
    case 'object':
      return joinedClasses([...expr.entries.map(ofCondition), expr.open ? OPEN : NO_CLASSES]);
    case 'constant':
      return typeof expr.value === 'string' ? inText(expr) : NO_CLASSES;
    default:
      return inText(expr);
  }
}

const OPEN: ClassList = { ...NO_CLASSES, open: true };

const isFalsyPart = ({ test, otherwise }: Extract<Expr, { is: 'if' }>): boolean =>
  (test.is === 'truthy' && test.expr === otherwise) || conditionFrom(otherwise) === test;

function inText(expr: Expr): ClassList {
  const marked = textPieces(expr)
    .map((piece) => (typeof piece === 'string' ? piece : '\u0000'))
    .join('');
  const all = words(marked);
  const always = all.filter((word) => !word.includes('\u0000'));
  return { always, maybe: [], open: always.length < all.length };
}

function ofCondition([name, value]: readonly [string, Expr]): ClassList {
  if (value.is !== 'constant') return { always: [], maybe: words(name), open: false };
  return value.value ? { always: words(name), maybe: [], open: false } : NO_CLASSES;
}

/** Several lists on one element. */
export function joinedClasses(lists: readonly ClassList[]): ClassList {
  const filled = lists.filter((list) => list !== NO_CLASSES);
  if (filled.length < 2) return filled[0] ?? NO_CLASSES;
  return {
    always: lists.flatMap((list) => list.always),
    maybe: lists.flatMap((list) => list.maybe),
    open: lists.some((list) => list.open),
  };
}

const maybe = (...lists: ClassList[]): ClassList => {
  const all = joinedClasses(lists);
  return { always: [], maybe: [...all.always, ...all.maybe], open: all.open };
};
