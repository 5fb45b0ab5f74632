import { constant, memberOfExpr, orElse, truthy, type Expr } from '../../expr.js';

/** What functions of kits give that are too long to be read, by their names in the kit's own modules. */
const GIVEN: ReadonlyMap<string, (args: readonly Expr[]) => Expr | undefined> = new Map([
  // @mui/material 5: each state by the props, or else by the control around.
  ['formControlState', formControlState],
  // @chakra-ui/object-utils 2: all that is there.
  ['compact', ([given]) => given],
  // @carbon/icon-helpers 10: what is given, and hidden where it has no name.
  ['getAttributes', iconAttributes],
]);

/** What a call in a module of a package gives, where its function is known by name. */
export const givenByKit = (name: string, args: readonly Expr[]): Expr | undefined => GIVEN.get(name)?.(args);

function iconAttributes([given]: readonly Expr[]): Expr | undefined {
  if (given?.is !== 'object') return undefined;
  const label = orElse(memberOfExpr(given, 'aria-label'), memberOfExpr(given, 'aria-labelledby'));
  const named = (then: Expr, otherwise: Expr): Expr => ({ is: 'if', test: truthy(label), then, otherwise });
  return {
    ...given,
    entries: [
      ...given.entries,
      ['role', named(constant('img'), memberOfExpr(given, 'role'))],
      ['aria-hidden', named(memberOfExpr(given, 'aria-hidden'), constant(true))],
    ],
  };
}

function formControlState([given]: readonly Expr[]): Expr | undefined {
  if (given?.is !== 'object') return undefined;
  const part = (name: string): Expr => memberOfExpr(given, name);
  const [props, states, control] = [part('props'), part('states'), part('muiFormControl')];
  if (states.is !== 'list') return undefined;
  const entries = states.items.flatMap((state): (readonly [string, Expr])[] => {
    if (state.is !== 'constant' || typeof state.value !== 'string') return [];
    const around: Expr = {
      is: 'if',
      test: truthy(control),
      then: memberOfExpr(control, state.value),
      otherwise: constant(undefined),
    };
    return [[state.value, orElse(memberOfExpr(props, state.value), around)]];
  });
  return { is: 'object', entries, open: false };
}
