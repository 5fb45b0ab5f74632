import type { Emptiness, Meaning } from './meaning.js';
import { each } from './type-table.js';

const asks = (empty: Emptiness, names: string): Record<string, Meaning> =>
  each(names, { kind: 'matcher', empty });

/** Matchers of every assertion style: called ones, and the chained properties that assert when read. */
export const MATCHERS: Record<string, Meaning> = {
  ...each('not', { kind: 'expectation-chain', not: true }),
  ...each('resolves rejects eventually', { kind: 'expectation-chain', promised: true }),
  ...each(
    'to be been is that which and has have with at of same but does still also deep nested own ordered any all withContext soft',
    {
      kind: 'expectation-chain',
    },
  ),
  ...asks('there', 'toBeInTheDocument toBeInTheDOM toBePresent exist toExist toBeAttached'),
  ...asks('truthy', 'toBeTruthy toBeTrue ok true toBeTruthy'),
  ...asks('falsy', 'toBeFalsy toBeFalse false'),
  ...asks('null', 'toBeNull null'),
  ...asks('defined', 'toBeDefined'),
  ...asks('undefined', 'toBeUndefined undefined'),
  ...asks(
    'called',
    'toHaveBeenCalled toBeCalled toHaveBeenCalledTimes toBeCalledTimes toHaveBeenCalledWith toBeCalledWith toHaveBeenCalledOnce toHaveBeenLastCalledWith toHaveBeenNthCalledWith called calledOnce calledWith notCalled callCount',
  ),
  ...asks('equal', 'toBe toEqual toStrictEqual equal equals eql eq deepEqual'),
  ...asks('count', 'toHaveLength lengthOf length toHaveCount'),
  ...asks(
    'snapshot',
    'toMatchSnapshot toMatchInlineSnapshot toMatchFileSnapshot matchSnapshot toThrowErrorMatchingSnapshot toThrowErrorMatchingInlineSnapshot',
  ),
};

/** Chained properties that assert by being read, where the assertion library is the chained one. */
export const READ_MATCHERS: ReadonlySet<string> = new Set(
  'ok true false null undefined exist empty called calledOnce calledTwice NaN arguments extensible sealed frozen finite'.split(
    ' ',
  ),
);
