import type { Node } from 'oxc-parser';

/** A way in which a statement may end: by going on to the next, or by leaving its function, loop or switch. */
type Ending = 'falls' | 'returns' | 'throws' | 'breaks' | 'continues';

type Endings = ReadonlySet<Ending>;

const FALLS: Endings = new Set(['falls']);

/**
 * All ways in which a statement may end, as far as its form tells (ECMAScript, completion records). What a call throws
 * is not counted; a condition is taken for one that may hold or not, unless it is `true` written out.
 */
export function completion(node: Node): Endings {
  switch (node.type) {
    case 'ReturnStatement':
      return new Set(['returns']);
    case 'ThrowStatement':
      return new Set(['throws']);
    case 'BreakStatement':
      return new Set(['breaks']);
    case 'ContinueStatement':
      return new Set(['continues']);
    case 'BlockStatement':
    case 'StaticBlock':
      return completionOf(node.body);
    case 'IfStatement':
      return either(completion(node.consequent), node.alternate ? completion(node.alternate) : FALLS);
    case 'SwitchStatement':
      return ofSwitch(node);
    case 'TryStatement':
      return ofTry(node);
    case 'LabeledStatement':
      // A break may name the label.
      return without(completion(node.body), 'breaks', 'falls');
    case 'WhileStatement':
    case 'ForStatement':
    case 'DoWhileStatement':
    case 'ForOfStatement':
    case 'ForInStatement':
      return ofLoop(node);
    default:
      return FALLS;
  }
}

/** All ways in which statements, one after another, may end. */
export function completionOf(statements: readonly Node[]): Endings {
  const found = new Set<Ending>();
  for (const statement of statements) {
    const ends = completion(statement);
    for (const each of ends) if (each !== 'falls') found.add(each);
    if (!ends.has('falls')) return found;
  }
  return found.add('falls');
}

/** Whether a statement always leaves its function. */
export function leaves(node: Node): boolean {
  const ends = completion(node);
  return !ends.has('falls') && !ends.has('breaks') && !ends.has('continues');
}

/** Whether what stands behind a statement is never reached from it. */
export const neverFalls = (node: Node): boolean => !completion(node).has('falls');

/** Whether a statement may leave its function. */
export function mayLeave(node: Node): boolean {
  const ends = completion(node);
  return ends.has('returns') || ends.has('throws');
}

const either = (...all: readonly Endings[]): Endings => new Set(all.flatMap((each) => [...each]));

// The endings without one, which becomes another.
function without(ends: Endings, ending: Ending, instead: Ending): Endings {
  if (!ends.has(ending)) return ends;
  return new Set([...ends].map((end) => (end === ending ? instead : end)));
}

function ofSwitch({ cases }: Extract<Node, { type: 'SwitchStatement' }>): Endings {
  const ends = cases.map(({ consequent }) => completionOf(consequent as readonly Node[]));
  const last = ends.at(-1);
  const hasDefault = cases.some(({ test }) => test === null);
  // Only the last one's end is the end of the switch: the others fall into the next.
  const found = either(...ends.map((end, i) => (i < ends.length - 1 ? drop(end, 'falls') : end)));
  return either(without(found, 'breaks', 'falls'), hasDefault && last ? new Set() : FALLS);
}

const drop = (ends: Endings, ending: Ending): Endings => new Set([...ends].filter((end) => end !== ending));

function ofTry({ block, handler, finalizer }: Extract<Node, { type: 'TryStatement' }>): Endings {
  const tried = completion(block);
  const ends = handler ? either(drop(tried, 'throws'), completion(handler.body)) : tried;
  if (!finalizer) return ends;
  const last = completion(finalizer);
  return last.has('falls') ? either(ends, drop(last, 'falls')) : last;
}

type Loop = Extract<
  Node,
  { type: 'WhileStatement' | 'ForStatement' | 'DoWhileStatement' | 'ForOfStatement' | 'ForInStatement' }
>;

function ofLoop(node: Loop): Endings {
  const body = completion(node.body);
  const leaving = drop(drop(drop(body, 'breaks'), 'continues'), 'falls');
  const isFirst = node.type === 'DoWhileStatement';
  const never = 'test' in node && isEndless(node);
  const goesOn = body.has('falls') || body.has('continues');
  const falls = body.has('breaks') || (!never && (!isFirst || goesOn));
  return falls ? either(leaving, FALLS) : leaving;
}

const isEndless = ({ type, test }: { type: string; test?: Node | null }): boolean =>
  (type === 'ForStatement' && !test) || (test?.type === 'Literal' && test.value === true);
