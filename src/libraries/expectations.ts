import type { Emptiness, Meaning } from './meaning.js';
import { each } from './type-table.js';

const asks = (empty: Emptiness, names: string): Record<string, Meaning> =>
  each(names, { kind: 'matcher', empty });

/** Matchers of every assertion style: called ones, and the chained properties that assert when read. */
export const MATCHER_MEANINGS: Record<string, Meaning> = {
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

/** Properties and methods that give the text of what is rendered. */
export const TEXT_READS: ReadonlySet<string> = new Set([
  'text',
  'html',
  'textContent',
  'innerHTML',
  'innerText',
]);

/** Matchers of the chained style that do nothing until they are called. */
export const CALLED_MATCHERS: ReadonlySet<string> = new Set(
  'equal equals eq eql match above below least most within throw throws satisfy members keys property string closeTo instanceof instanceOf'.split(
    ' ',
  ),
);

/** What assertions that are made by a call ask, in the words of matchers. */
export const ASKED_BY_CALL: ReadonlyMap<string, { asks: Emptiness; not: boolean }> = new Map(
  Object.entries({
    assert: { asks: 'truthy', not: false },
    ok: { asks: 'truthy', not: false },
    isOk: { asks: 'truthy', not: false },
    isTrue: { asks: 'truthy', not: false },
    exists: { asks: 'truthy', not: false },
    isDefined: { asks: 'defined', not: false },
    isNotNull: { asks: 'null', not: true },
    isNotUndefined: { asks: 'undefined', not: true },
    equal: { asks: 'equal', not: false },
    strictEqual: { asks: 'equal', not: false },
    deepEqual: { asks: 'equal', not: false },
    deepStrictEqual: { asks: 'equal', not: false },
    notCalled: { asks: 'called', not: false },
  } as const),
);
