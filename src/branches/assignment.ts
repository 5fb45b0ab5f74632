import type { Domain } from '../components/domain.js';
import { constant, SOMETHING, type Expr, type Condition } from '../components/expr.js';
import { filledExpr, outcome } from '../components/expr-filling.js';
import type { Variable } from './variables.js';

/** What a variable is given: a value without parts, or an object or list that its properties make. */
export type AssignedValue = Expr | 'parts';

/** Values given to variables, by which conditions are worked out as far as they go. */
export class Assignment {
  readonly #given = new Map<Variable, AssignedValue>();
  readonly #roots: ReadonlyMap<string, Variable>;

  constructor(variables: readonly Variable[]) {
    this.#roots = new Map(
      variables.filter(({ parent }) => !parent).map((variable) => [variable.path[0] ?? '', variable]),
    );
  }

  get(variable: Variable): AssignedValue | undefined {
    return this.#given.get(variable);
  }

  set(variable: Variable, given: AssignedValue | undefined): void {
    if (given === undefined) this.#given.delete(variable);
    else this.#given.set(variable, given);
  }

  /** Whether a condition holds; undefined where that is still open. */
  outcome(test: Condition): boolean | undefined {
    return outcome(test, this.#value);
  }

  /** An expression with all that is given filled in. */
  filled(expr: Expr): Expr {
    return filledExpr(expr, this.#value);
  }

  readonly #value = (name: string): Expr => {
    const root = this.#roots.get(name);
    return root ? this.#of(root, { is: 'prop', name }) : { is: 'prop', name };
  };

  #of(variable: Variable, self: Expr): Expr {
    const given = this.#given.get(variable);
    if (given === undefined) return self;
    if (given !== 'parts') return given;
    const part = (name: string): Expr => {
      const member = variable.members.get(name);
      const inner: Expr = { is: 'member', of: self, name };
      return member ? this.#of(member, inner) : inner;
    };
    const names = [...variable.members.keys()];
    const isList = names.some((name) => name === 'length' || /^\d+$/.test(name));
    const size = names.includes('length') ? part('length') : constant(lengthFor(names));
    // As long as its length is open, it is only known to be there.
    if (!isList || size.is !== 'constant')
      return { is: 'object', entries: names.map((name) => [name, part(name)]), open: isList };
    const count = Number(size.value);
    const { kinds, items } = variable.domain;
    if (kinds.includes('string')) return constant('x'.repeat(count));
    return {
      is: 'list',
      items: Array.from({ length: count }, (_, i) =>
        names.includes(String(i)) ? part(String(i)) : itemIn(items),
      ),
    };
  }
}

const lengthFor = (names: readonly string[]): number =>
  Math.max(0, ...names.map((name) => Number(name) + 1).filter((each) => each >= 1));

// An item of which nothing is asked.
function itemIn(domain: Domain | undefined): Expr {
  const [value] = domain?.values ?? [];
  if (value !== undefined) return constant(value);
  if (domain?.kinds.includes('string')) return constant('text');
  return domain?.kinds.includes('number') ? constant(1) : SOMETHING;
}
