import type { Expr, FunctionExpr } from './expr.js';
import { Later } from './later.js';

/** A function whose result is read once somebody asks for it. `params`: the keys of its parameters. */
export const functionExpr = (params: readonly string[], read: () => Expr | undefined): FunctionExpr =>
  new Called(params, read);

let made = 0;

class Called implements FunctionExpr {
  readonly params: readonly string[];
  /** Tells it from others where values are compared: the names in it may stand for something else. */
  readonly id = made++;
  readonly #gives: Later<Expr | undefined>;

  constructor(params: readonly string[], read: () => Expr | undefined) {
    this.params = params;
    this.#gives = new Later(read, undefined);
  }

  get gives(): Expr | undefined {
    return this.#gives.value;
  }
}
