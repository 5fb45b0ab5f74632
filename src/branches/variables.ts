import { mapComparisons, memberOfExpr, not, UNKNOWN, type Expr, type Condition } from '../components/expr.js';
import { computed } from '../components/expr-filling.js';
import { ANYTHING, type Domain, type Domains } from '../components/domain.js';

/** A value that a condition depends on: an input, or a property of one. */
export interface Variable {
  /** The input's name and the properties on the way. */
  path: readonly string[];
  domain: Domain;
  members: Map<string, Variable>;
  /** The condition asks about the value itself, not only about its properties. */
  asked: boolean;
  parent?: Variable;
}

/** What the names of state start with, to tell them from props. */
export const STATE_PREFIX = '~';

/**
 * A condition over inputs alone: names of state become inputs of their own, and what can't be compared exactly becomes
 * unknown, so that nothing is said of it.
 */
export const conditionOverInputs = (test: Condition): Condition =>
  mapComparisons(test, (atom) =>
    atom.is === 'truthy'
      ? eitherWay([inputExpr(atom.expr)], ([expr = UNKNOWN]) => ({ is: 'truthy', expr }))
      : eitherWay([inputExpr(atom.left), inputExpr(atom.right)], ([left = UNKNOWN, right = UNKNOWN]) => ({
          is: 'same',
          left,
          right,
        })),
  );

// `(a ? b : c) < d` is `a && b < d || !a && c < d`: what is compared is then an input or a constant.
function eitherWay(
  sides: readonly Expr[],
  make: (sides: readonly Expr[]) => Condition,
  depth = 0,
): Condition {
  const at = depth < DEEPEST ? sides.findIndex((side) => conditionalIn(side) !== undefined) : -1;
  const side = sides[at];
  const found = side && conditionalIn(side);
  if (!side || !found) return make(sides);
  const way = (value: Expr): Condition =>
    eitherWay(sides.with(at, replaced(side, found, value)), make, depth + 1);
  return {
    is: 'any',
    of: [
      { is: 'all', of: [found.test, way(found.then)] },
      { is: 'all', of: [not(found.test), way(found.otherwise)] },
    ],
  };
}

const DEEPEST = 4;
type Conditional = Extract<Expr, { is: 'if' }>;

function conditionalIn(expr: Expr): Conditional | undefined {
  if (expr.is === 'if') return expr;
  const parts = expr.is === 'computed' ? expr.of : expr.is === 'member' ? [expr.of] : [];
  for (const part of parts) {
    const found = conditionalIn(part);
    if (found) return found;
  }
  return undefined;
}

function replaced(expr: Expr, old: Expr, by: Expr): Expr {
  if (expr === old) return by;
  if (expr.is === 'member') return memberOfExpr(replaced(expr.of, old, by), expr.name, expr.optional);
  return expr.is === 'computed'
    ? computed(
        expr.by,
        expr.of.map((each) => replaced(each, old, by)),
      )
    : expr;
}

function inputExpr(expr: Expr): Expr {
  switch (expr.is) {
    case 'unknown':
      return expr.name === undefined
        ? expr
        : (expr.path ?? []).reduce<Expr>((of, name) => memberOfExpr(of, name), {
            is: 'prop',
            name: STATE_PREFIX + expr.name,
          });
    case 'member':
      return { ...expr, of: inputExpr(expr.of) };
    case 'computed':
      return { ...expr, of: expr.of.map(inputExpr) };
    case 'if':
      return {
        is: 'if',
        test: conditionOverInputs(expr.test),
        then: inputExpr(expr.then),
        otherwise: inputExpr(expr.otherwise),
      };
    case 'object':
      return { ...expr, entries: expr.entries.map(([key, value]) => [key, inputExpr(value)]) };
    case 'list':
      return { ...expr, items: expr.items.map(inputExpr) };
    // Markup shows nothing for null; a template writes the word.
    case 'text':
    case 'choice':
      return { is: 'unknown' };
    default:
      return expr;
  }
}

/** The variables of conditions over inputs, those of an object before its properties. */
export function variablesOf(tests: readonly Condition[], domains: Domains): Variable[] {
  const roots = new Map<string, Variable>();
  const visit = (expr: Expr): void => {
    const found = variableAt(expr, roots, domains);
    if (found) found.asked = true;
    else partsOf(expr).forEach(visit);
  };
  tests.forEach((test) => visitCondition(test, visit));
  // What may be anything takes after what it is compared with.
  const isOpen = ({ domain }: Variable): boolean => domain.kinds.includes('anything');
  return [...roots.values()].sort((a, b) => Number(isOpen(a)) - Number(isOpen(b))).flatMap(withMembers);
}

function withMembers(variable: Variable): Variable[] {
  // How long a list is decides whether it has items.
  const members = [...variable.members].sort(([a], [b]) => Number(b === 'length') - Number(a === 'length'));
  return [variable, ...members.flatMap(([, member]) => withMembers(member))];
}

function variableAt(expr: Expr, roots: Map<string, Variable>, domains: Domains): Variable | undefined {
  if (expr.is === 'prop') {
    const known = roots.get(expr.name);
    if (known) return known;
    const domain = domains.get(expr.name) ?? ANYTHING;
    const made: Variable = { path: [expr.name], domain, members: new Map(), asked: false };
    roots.set(expr.name, made);
    return made;
  }
  const of = expr.is === 'member' ? variableAt(expr.of, roots, domains) : undefined;
  if (!of || expr.is !== 'member') return undefined;
  const known = of.members.get(expr.name);
  if (known) return known;
  const made: Variable = {
    path: [...of.path, expr.name],
    domain: memberDomain(of.domain, expr.name),
    members: new Map(),
    asked: false,
    parent: of,
  };
  of.members.set(expr.name, made);
  return made;
}

const memberDomain = ({ members, items, kinds }: Domain, name: string): Domain => {
  if (name === 'length' && (kinds.includes('list') || kinds.includes('string')))
    return { values: [], kinds: ['number'] };
  return (/^\d+$/.test(name) ? items : members?.get(name)) ?? ANYTHING;
};

/** Calls `visit` for every expression that a condition compares or asks for its truth. */
export const visitCondition = (test: Condition, visit: (expr: Expr) => void): void =>
  comparisonsIn(test).forEach((sides) => sides.forEach((side) => visit(side)));

/** What a condition asks: two expressions that it compares, or one that it asks for its truth. */
export function comparisonsIn(test: Condition): Expr[][] {
  switch (test.is) {
    case 'truthy':
      return [[test.expr]];
    case 'same':
      return [[test.left, test.right]];
    case 'not':
      return comparisonsIn(test.of);
    case 'all':
    case 'any':
      return test.of.flatMap(comparisonsIn);
    default:
      return [];
  }
}

/** The expressions that an expression is made of. */
export function partsOf(expr: Expr): Expr[] {
  switch (expr.is) {
    case 'member':
      return [expr.of];
    case 'computed':
      return [...expr.of];
    case 'if': {
      const parts = [expr.then, expr.otherwise];
      visitCondition(expr.test, (each) => parts.push(each));
      return parts;
    }
    case 'object':
      return expr.entries.map(([, value]) => value);
    case 'list':
      return [...expr.items];
    default:
      return [];
  }
}
